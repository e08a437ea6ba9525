// Looks at the PDF that is written for paper with a general program: the pages as pictures, in a folder, and their sizes. Outside
// `npm test`: the program comes from Debian's packages and is fetched where it is missing.
//   node scripts/look-at-paper.mjs DRAWING.svg FOLDER [--page a4] [--overlap 10]      (after the command line is built)
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';

const [drawing, folder, ...options] = process.argv.slice(2);
if (!drawing || !folder) {
	console.error('Name a drawing and a folder for the pictures.');
	process.exit(1);
}
const has = (program) => {
	try {
		execFileSync('which', [program], { stdio: 'ignore' });
		return true;
	} catch {
		return false;
	}
};
if (!has('pdftoppm'))
	execFileSync('apt-get', ['install', '-y', '--no-install-recommends', 'poppler-utils'], {
		stdio: 'inherit'
	});
mkdirSync(folder, { recursive: true });
const pdf = join(folder, 'paper.pdf');
execFileSync('node', ['bin/even-thread.mjs', 'convert', drawing, pdf, ...options], { stdio: 'inherit' });
const DPI = 100;
execFileSync('pdftoppm', ['-r', String(DPI), '-png', pdf, join(folder, 'page')]);
for (const name of readdirSync(folder)
	.filter((file) => /^page.*\.png$/.test(file))
	.sort()) {
	const { data, info } = await sharp(join(folder, name))
		.greyscale()
		.raw()
		.toBuffer({ resolveWithObject: true });
	let ink = 0;
	for (const value of data) if (value < 128) ink++;
	const mm = (px) => ((px / DPI) * 25.4).toFixed(1);
	console.log(
		`${name}: ${mm(info.width)} x ${mm(info.height)} mm, ${((100 * ink) / data.length).toFixed(2)} % ink`
	);
}
