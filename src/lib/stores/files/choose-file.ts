/** One file that the person chooses; undefined where none is. @param accept endings, as an input takes them. */
export function chooseFile(accept: string): Promise<File | undefined> {
	return new Promise((resolve) => {
		const input = document.createElement('input');
		input.type = 'file';
		input.accept = accept;
		input.addEventListener('change', () => resolve(input.files?.[0]));
		input.addEventListener('cancel', () => resolve(undefined));
		input.click();
	});
}
