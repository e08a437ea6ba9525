/// <reference types="@sveltejs/kit" />
/// <reference lib="webworker" />
/**
 * Keeps the whole app in the browser, so that it works with the network cut: everything of one build at once, under its version.
 * A newer build waits until the person takes it up; what the one before was made of stays for tabs that still run it.
 */
import { build, files, version } from '$service-worker';
import { PrecacheController, PrecacheRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { SHARE_PLACE, SHARED_CACHE, TAKE_UP } from '$lib/stores/app/shared';

declare const self: ServiceWorkerGlobalScope;

/** What a build before this one was made of, for tabs that still run it. */
const FORMER = 'even-thread-former';
/** Demos are fetched when they are wanted, and stay from then on. */
const DEMO = 'even-thread-demo';
const isDemo = (path: string) => path.startsWith('/demo/') && !path.startsWith('/demo/cards/');

const whole = new PrecacheController();
whole.addToCacheList([
	{ url: '/', revision: version },
	// What the build made carries its content in its name.
	...build.map((url) => ({ url, revision: null })),
	...files.filter((url) => !isDemo(url)).map((url) => ({ url, revision: version }))
]);
self.addEventListener('install', (event) => void whole.install(event));
self.addEventListener('activate', (event) =>
	event.waitUntil(keepFormer().finally(() => whole.activate(event)))
);
registerRoute(new PrecacheRoute(whole, { cleanURLs: false }));

// Every page is the same shell: what it shows is in the browser's database.
registerRoute(new NavigationRoute(whole.createHandlerBoundToURL('/'), { denylist: [/^\/(api|demo)\//] }));

registerRoute(
	({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith('/_app/immutable/'),
	async ({ request }) => (await (await caches.open(FORMER)).match(request)) ?? fetch(request)
);

registerRoute(
	({ url, sameOrigin }) => sameOrigin && isDemo(url.pathname),
	async ({ request }) => {
		const kept = await caches.open(DEMO);
		try {
			const response = await fetch(request);
			if (response.ok) await kept.put(request, response.clone());
			return response;
		} catch (error) {
			const before = await kept.match(request);
			if (before) return before;
			throw error;
		}
	}
);

/** Files that another program shares lie in a cache until the list of drawings takes them in. */
registerRoute(
	({ url, sameOrigin }) => sameOrigin && url.pathname === SHARE_PLACE,
	async ({ request }) => {
		const shared = (await request.formData()).getAll('files');
		const lying = await caches.open(SHARED_CACHE);
		for (const file of shared)
			if (file instanceof File)
				await lying.put(
					// Under a place of its own: what was shared before may lie there still.
					`${SHARE_PLACE}/${crypto.randomUUID()}/${encodeURIComponent(file.name)}`,
					new Response(file, { headers: { 'content-type': file.type } })
				);
		return Response.redirect('/', 303);
	},
	'POST'
);

self.addEventListener('message', ({ data }) => {
	if (data === TAKE_UP) void self.skipWaiting();
});

/** Puts aside what the build before was made of, before it is cleared away. */
async function keepFormer(): Promise<void> {
	await caches.delete(FORMER);
	const former = await caches.open(FORMER);
	for (const name of await caches.keys()) {
		if (!name.includes('precache')) continue;
		const cache = await caches.open(name);
		for (const request of await cache.keys()) {
			if (!new URL(request.url).pathname.startsWith('/_app/immutable/')) continue;
			const response = build.includes(new URL(request.url).pathname) ? undefined : await cache.match(request);
			if (response) await former.put(request, response);
		}
	}
}
