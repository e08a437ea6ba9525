// Debian's Chromium, as tests and scripts start it; nothing of it may look for the world outside.
export const CHROMIUM = process.env.CHROMIUM ?? '/usr/bin/chromium';
export const CHROMIUM_ARGS = [
	'--headless',
	'--no-sandbox',
	'--disable-gpu',
	'--disable-quic',
	'--no-first-run',
	'--disable-background-networking',
	'--disable-component-update',
	'--disable-sync'
];
