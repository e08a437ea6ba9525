/** The app as it lies in this browser: whether a newer build waits, whether it works with the network cut, whether it can be installed. */
import { SHARED_CACHE, TAKE_UP } from './shared';

/** ms between two questions whether there is a newer build. */
const ASK_EVERY_MS = 3_600_000;

/** What a browser gives that offers to install the app. */
interface InstallOffer extends Event {
	prompt(): Promise<void>;
}

class Installed {
	/** A newer build lies here and waits. */
	newer = $state(false);
	/** Everything lies here: the app works with the network cut. */
	offline = $state(false);
	/** The network is there. */
	online = $state(true);
	/** The browser offers to install it. */
	offer = $state.raw<InstallOffer | undefined>();
	private worker: ServiceWorkerRegistration | undefined;
	private taking = false;
	private started = false;

	/** Once per page. */
	start(): void {
		if (this.started) return;
		this.started = true;
		this.online = navigator.onLine;
		addEventListener('online', () => (this.online = true));
		addEventListener('offline', () => (this.online = false));
		addEventListener('beforeinstallprompt', (event) => {
			event.preventDefault();
			this.offer = event as InstallOffer;
		});
		addEventListener('appinstalled', () => (this.offer = undefined));
		const { serviceWorker } = navigator as { serviceWorker?: ServiceWorkerContainer };
		if (!serviceWorker) return;
		void serviceWorker.ready.then((worker) => this.watch(worker)).catch(() => undefined);
		// Taken up here or in another tab: this page goes on with what it runs until it is asked for.
		serviceWorker.addEventListener('controllerchange', () => {
			if (this.taking) location.reload();
		});
	}

	private watch(worker: ServiceWorkerRegistration): void {
		this.worker = worker;
		this.offline = true;
		this.newer = worker.waiting !== null;
		const awaitComing = () => {
			const coming = worker.installing;
			coming?.addEventListener('statechange', () => {
				if (coming.state === 'installed' && worker.active) this.newer = true;
			});
		};
		// One may be coming since before anybody looked.
		awaitComing();
		worker.addEventListener('updatefound', awaitComing);
		const ask = () => void worker.update().catch(() => undefined);
		setInterval(ask, ASK_EVERY_MS);
		document.addEventListener('visibilitychange', () => {
			if (document.visibilityState === 'visible') ask();
		});
	}

	/** Begins anew with the newer build. */
	takeUp(): void {
		this.taking = true;
		const waiting = this.worker?.waiting;
		if (!waiting) return location.reload();
		// A page that no worker answers for (one that was loaded past it) isn't told of a change of worker.
		waiting.addEventListener('statechange', () => {
			if (waiting.state === 'activated') location.reload();
		});
		waiting.postMessage(TAKE_UP);
	}

	async install(): Promise<void> {
		await this.offer?.prompt();
		this.offer = undefined;
	}
}

export const installed = new Installed();

/** Files that another program has shared: they lie there until they are let go of, which is when a drawing has them. */
export async function sharedFiles(): Promise<{ readonly files: readonly File[]; letGo(): void }> {
	const files: File[] = [];
	if (!('caches' in globalThis) || !(await caches.has(SHARED_CACHE)))
		return { files, letGo: () => undefined };
	const lying = await caches.open(SHARED_CACHE);
	const requests = await lying.keys();
	for (const request of requests) {
		const response = await lying.match(request);
		const name = decodeURIComponent(new URL(request.url).pathname.split('/').at(-1) ?? 'file');
		if (response) files.push(new File([await response.blob()], name));
	}
	return { files, letGo: () => void Promise.all(requests.map((request) => lying.delete(request))) };
}
