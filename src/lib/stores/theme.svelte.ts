/** Day or lamp light: as the system has it until someone says otherwise. */
import { DAY, LAMP, type Palette } from '../render/palette';

class Theme {
	lamp = $state(false);
	readonly palette: Palette = $derived(this.lamp ? LAMP : DAY);

	start(): void {
		const said = localStorage.getItem('light');
		this.set(said ? said === 'lamp' : matchMedia('(prefers-color-scheme: dark)').matches, false);
	}
	set(lamp: boolean, keep = true): void {
		this.lamp = lamp;
		document.documentElement.dataset.mode = lamp ? 'dark' : 'light';
		if (keep) localStorage.setItem('light', lamp ? 'lamp' : 'day');
	}
}

export const theme = new Theme();
