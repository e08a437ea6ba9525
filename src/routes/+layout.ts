// The drawing surface and the browser's database exist in the browser only.
export const ssr = false;
