<script lang="ts">
	/** The small drawings on the tools: our own, in thread and ink. */
	let { name }: { name: string } = $props();
</script>

<svg
	viewBox="0 0 40 32"
	width="40"
	height="32"
	aria-hidden="true"
	fill="none"
	stroke="currentColor"
	stroke-width="1.7"
	stroke-linecap="round"
	stroke-linejoin="round"
>
	{#if name === 'trace'}
		<path d="M6 22c2-12 12-17 19-11s9 8 8 14c-6 4-22 4-27-3z" fill="var(--wash)" stroke="none" />
		<path d="M6 22c2-12 12-17 19-11s9 8 8 14c-6 4-22 4-27-3z" stroke="var(--madder)" stroke-dasharray="4 3" />
	{:else if name === 'machine'}
		<path d="M5 27h30" stroke="var(--soft)" /><path d="M20 4v9l-3 4h6l-3-4" stroke="var(--madder)" /><path
			d="M7 21c4-4 8-4 13-4s9 0 13 4"
			stroke-dasharray="4 3"
		/><path d="M14 4h12" />
	{:else if name === 'group'}
		<path d="M5 20l7-11 7 11zM22 12a5 5 0 1 0 10 0a5 5 0 1 0-10 0" /><path
			d="M3 27c9 3 25 3 34 0"
			stroke="var(--madder)"
		/><path d="M3 27v-3M37 27v-3" stroke="var(--madder)" />
	{:else if name === 'ungroup'}
		<path d="M5 20l7-11 7 11zM22 12a5 5 0 1 0 10 0a5 5 0 1 0-10 0" /><path
			d="M3 27c4 2 8 2 12 2M25 29c4 0 8 0 12-2"
			stroke="var(--madder)"
			stroke-dasharray="4 3"
		/>
	{:else if name === 'symmetry'}
		<path d="M20 3v26" stroke="var(--madder)" stroke-dasharray="4 3" /><path
			d="M20 6c-9 0-14 5-14 10s5 9 14 10"
		/><path d="M20 6c9 0 14 5 14 10s-5 9-14 10" stroke="var(--soft)" stroke-dasharray="3 3" />
	{:else if name === 'repeat'}
		<path d="M4 22c1-7 6-9 8-9s2 6-1 9z" stroke="var(--madder)" /><path
			d="M16 22c1-7 6-9 8-9s2 6-1 9zM28 22c1-7 6-9 8-9s2 6-1 9z"
		/><path d="M5 27h30" stroke="var(--soft)" stroke-dasharray="2 4" />
	{:else if name === 'align'}
		<path d="M6 4v24" stroke="var(--madder)" stroke-dasharray="4 3" /><path
			d="M6 6h22v6H6zM6 20h13v6H6z"
		/><path d="M33 9h-3m3 14H22" stroke="var(--soft)" />
	{:else if name === 'arrange'}
		<path d="M5 4h30v24H5z" stroke="var(--soft)" /><path d="M7 26c1-9 8-11 12-8l3 8z" /><path
			d="M20 16c2-8 9-9 13-8v12c-5 2-9 1-13-4z"
			stroke="var(--madder)"
		/><path d="M8 7h9l-4 7-5-1z" />
	{:else if name === 'close-up'}
		<path d="M5 4v24h30" stroke="var(--soft)" /><path d="M8 14h9v11H8z" /><path
			d="M20 12h9v13h-9z"
			stroke="var(--madder)"
		/><path d="M36 8l-6 3m0-4l0 4l4 0" stroke="var(--madder)" />
	{:else if name === 'put-back'}
		<path d="M22 8h12v16H22z" stroke="var(--soft)" stroke-dasharray="3 3" /><path d="M5 10h10v13H5z" /><path
			d="M28 16H17m4-4l-4 4 4 4"
			stroke="var(--madder)"
		/>
	{:else if name === 'hide'}
		<path
			d="M8 6c4 2 8 0 12 0s8 2 12 0c2 4-1 6 0 10s3 6 1 10c-5 1-8-2-13-2s-8 3-13 2c-2-4 0-6 1-10s-2-6 0-10z"
			stroke="var(--madder)"
		/>
	{:else if name === 'spoilt'}
		<path d="M5 5h30v22H5z" stroke="var(--soft)" /><path
			d="M15 12c4-3 10-1 10 4s-7 7-10 4-3-6 0-8z"
			stroke="var(--madder)"
		/><path d="M17 13l7 7m0-7l-7 7" />
	{:else if name === 'paper'}
		<path d="M7 4h12v14H7z" /><path
			d="M21 4h12v14H21zM7 20h12v8H7zM21 20h12v8H21z"
			stroke="var(--soft)"
		/><path d="M11 24c3-12 10-15 18-14" stroke="var(--madder)" />
	{:else if name === 'double'}
		<path d="M4 24C6 10 16 10 18 24z" stroke="var(--soft)" /><path d="M14 22C16 8 26 8 28 22z" /><path
			d="M24 20C26 6 36 6 38 20z"
			stroke="var(--madder)"
		/>
	{:else if name === 'extend'}
		<path d="M4 24C8 14 14 12 20 13" /><path
			d="M20 13c6 1 10 2 14 1"
			stroke="var(--madder)"
			stroke-dasharray="4 3"
		/><path d="M35 4v20" stroke="var(--soft)" />
	{:else if name === 'crossings'}
		<path d="M5 6L17 14M23 18l12 8M5 26l12-8M23 14L35 6" /><path
			d="M17 14l-1-4m1 4l-4 1M23 18l1 4m-1-4l4-1"
			stroke="var(--madder)"
		/>
	{:else if name === 'singles'}
		<path d="M5 22L9 8M14 6h12M31 8l4 14M30 27H10" /><path
			d="M11 4v4M29 4v4M37 25l-4 3M3 25l4 3"
			stroke="var(--madder)"
		/>
	{:else if name === 'detach'}
		<path d="M4 24C8 12 12 10 16 10M26 10c4 1 8 5 10 14" /><path
			d="M15 5c4-2 8-2 11 0"
			stroke="var(--madder)"
			stroke-width="2.4"
		/>
	{:else if name === 'takeout'}
		<path d="M4 22h10M26 22h10" /><path
			d="M14 22h12"
			stroke="var(--soft)"
			stroke-width="1"
			stroke-dasharray="2 3"
		/><path d="M14 16v12M26 16v12" stroke="var(--madder)" /><path
			d="M17 6l6 6m0-6l-6 6"
			stroke="var(--madder)"
		/>
	{:else if name === 'between'}
		<path d="M4 26h16M34 4v10" /><path
			d="M20 26c9 0 14-4 14-12"
			stroke="var(--madder)"
			stroke-width="2.2"
		/><path d="M20 26h14V14" stroke="var(--soft)" stroke-width="1" stroke-dasharray="2 3" />
	{:else if name === 'mark'}
		<path d="M20 5v8M20 19v8M9 16h8M23 16h8" /><path d="M20 16v.1" stroke="var(--madder)" stroke-width="4" />
	{:else if name === 'enter'}
		<path d="M5 24C10 8 22 6 35 12" />
		<path d="M17 4.5l4.5 9.5" stroke="var(--madder)" stroke-width="2.4" />
		<path d="M13 26l7-9m0 0l-1 4.5m1-4.5l-4 1" />
	{:else if name === 'simplify'}
		<path d="M4 20l3-3 2 3 3-6 3 2 2-6 4 2 3-3 3 3 4-3 4 4" stroke="var(--soft)" stroke-width="1.1" />
		<path d="M4 27C12 8 24 8 36 17" stroke="var(--madder)" stroke-width="2" />
	{:else if name === 'knot'}
		<path d="M3 22h9c14 0 14-12 8-13s-8 13 6 13h11" stroke="var(--rust)" stroke-width="2.2" />
	{:else if name === 'mendall'}
		<path d="M5 24L15 9M35 24L25 9" /><path d="M12 22l16-1M13 17l14-1M15 12l10-1" stroke="var(--madder)" />
	{:else if name === 'look'}
		<path d="M3 22C9 6 16 6 20 15s11 9 17-3" /><path
			d="M7 14L3 10M11 9L9 3M17 10l4-5M22 19l-3 5M29 20l1 6M35 16l4 4"
			stroke="var(--woad)"
			stroke-width="1.1"
		/><path d="M3 29h34" stroke="var(--madder)" stroke-dasharray="3 2" />
	{:else if name === 'meet'}
		<path d="M3 26C8 12 14 9 20 9" /><path d="M20 9c7 0 13 6 17 17" stroke="var(--madder)" /><path
			d="M20 5v8"
			stroke-width="2.4"
		/><path d="M9 21L5 18M14 13l-3-4M26 11l2-5M32 18l4-3" stroke-width="1" stroke="var(--woad)" />
	{:else if name === 'bridge'}
		<path d="M3 8c4 0 7 3 9 8M37 24c-4 0-8-2-10-6" /><path
			d="M12 16c3 8 10 9 15 2"
			stroke="var(--madder)"
			stroke-width="2.2"
		/><path d="M10 18l4-3M25 20l4-4" stroke="var(--woad)" />
	{:else if name === 'half'}
		<path d="M4 25C12 6 28 6 36 25" /><path d="M20 6v9" stroke="var(--madder)" stroke-width="2.4" /><path
			d="M3 22l2 5m32-5l-2 5"
		/>
	{:else if name === 'delete'}
		<path d="M4 24C12 14 28 14 36 24" /><path
			d="M4 24l8-14 8-4 8 4 8 14"
			stroke="var(--soft)"
			stroke-width="1"
			stroke-dasharray="2 3"
		/><path d="M17 3l6 6m0-6l-6 6" stroke="var(--madder)" stroke-width="2.2" />
	{:else if name === 'offset'}
		<path d="M12 22c0-9 5-12 9-11s8 5 7 11z" /><path
			d="M6 27C5 10 14 4 22 5s14 9 12 22z"
			stroke="var(--madder)"
			stroke-dasharray="5 3"
		/>
	{:else if name === 'allowance'}
		<path d="M12 8h16l2 12H10z" /><path
			d="M9 5h22l5 22H5z"
			stroke="var(--madder)"
			stroke-dasharray="5 3"
		/><path d="M20 20v7m-2-2 2 2 2-2" stroke="var(--madder)" />
	{:else if name === 'combine'}
		<path
			d="M21 9C14 4 5 8 5 16s9 12 16 7c7 5 14 1 14-7S28 4 21 9z"
			fill="var(--wash)"
			stroke="var(--madder)"
		/><path
			d="M21 9c5 4 5 10 0 14m0-14c-5 4-5 10 0 14"
			stroke="var(--soft)"
			stroke-width="1"
			stroke-dasharray="2 3"
		/>
	{:else if name === 'join'}
		<path d="M3 24C7 12 12 9 17 12" /><path d="M37 22c-3-10-8-13-13-10" /><path
			d="M17 12c2 1 5 1 7 0"
			stroke="var(--madder)"
			stroke-width="2.4"
			stroke-dasharray="2 3"
		/>
	{:else if name === 'trim'}
		<path d="M3 16h10m14 0h10" /><path d="M13 5v22M27 5v22" /><path
			d="M13 16h14"
			stroke="var(--madder)"
			stroke-dasharray="2 4"
		/>
	{:else if name === 'break'}
		<path d="M3 24C8 11 13 9 17 10" /><path d="M37 24C33 12 28 9 23 11" /><path
			d="M18 5l1.500 10M23 6l-1.500 10"
			stroke="var(--madder)"
		/>
	{:else if name === 'corner'}
		<path d="M6 28V16c0-6 4-10 10-10h18" /><path
			d="M6 16V6h10"
			stroke="var(--soft)"
			stroke-width="1.100"
			stroke-dasharray="2 3"
		/><path d="M6 16c0-6 4-10 10-10" stroke="var(--madder)" stroke-width="2.400" />
	{:else if name === 'line'}
		<path d="M5 25L14 8C22 8 26 12 30 20" /><path d="M8 4l12 8" stroke="var(--madder)" /><path
			d="M30 20l5 7"
			stroke="var(--soft)"
			stroke-dasharray="2 3"
		/><path d="M28 18l4 4m0-4l-4 4" stroke="var(--madder)" stroke-width="2.2" />
	{:else if name === 'freehand'}
		<path d="M4 24c4-14 8-16 11-9s5 9 9 1 7-8 12-9" stroke="var(--madder)" /><path
			d="M4 27c3-2 5-13 9-16"
			stroke="var(--soft)"
			stroke-width="1"
		/>
	{:else if name === 'shape'}
		<path d="M5 8h14v14H5z" /><circle cx="27" cy="19" r="8" stroke="var(--madder)" /><path
			d="M5 27h14"
			stroke="var(--soft)"
			stroke-dasharray="2 3"
		/>
	{:else if name === 'through'}
		<path d="M4 24C8 6 16 6 20 16s10 10 16-6" stroke="var(--madder)" stroke-width="2.2" /><circle
			cx="4"
			cy="24"
			r="2.4"
		/><circle cx="13" cy="9" r="2.4" /><circle cx="24" cy="21" r="2.4" /><circle cx="36" cy="10" r="2.4" />
	{:else if name === 'pulled'}
		<path d="M4 25L13 4l13 20L36 7" stroke="var(--soft)" stroke-width="1" stroke-dasharray="3 3" /><path
			d="M4 25C8 15 12 9 18 13s12 5 18-6"
			stroke="var(--madder)"
			stroke-width="2.2"
		/>
	{:else if name === 'conic'}
		<path d="M4 26L20 2l16 24" stroke="var(--soft)" stroke-width="1" stroke-dasharray="3 3" /><path
			d="M4 26C13 12 27 12 36 26"
			stroke="var(--madder)"
			stroke-width="2.2"
		/>
	{:else if name === 'formula'}
		<path d="M4 16c5-14 9-14 13 0s9 14 13 0" stroke="var(--madder)" stroke-width="2.2" /><path
			d="M3 16h34M4 4v24"
			stroke="var(--soft)"
			stroke-width="1"
		/>
	{:else if name === 'seams'}
		<path d="M4 10C14 4 26 4 36 10" stroke="var(--madder)" stroke-width="2" stroke-dasharray="4 3" /><path
			d="M4 22c10 6 22 6 32 0"
			stroke="var(--madder)"
			stroke-width="2"
			stroke-dasharray="4 3"
		/><path d="M14 6v5m12-5v5M14 25v-5m12 5v-5" stroke="var(--soft)" />
	{:else if name === 'band'}
		<path d="M4 15C14 4 24 26 36 14" stroke-dasharray="3 3" stroke="var(--soft)" /><path
			d="M3 12C13 0 23 20 34 7l4 12C25 34 14 14 5 18z"
			stroke="var(--madder)"
			stroke-width="2"
		/>
	{:else if name === 'facing'}
		<path d="M6 4c4 10 24 10 28 0v24H6z" /><path
			d="M6 4c4 10 24 10 28 0v7c-7 9-21 9-28 0z"
			stroke="var(--madder)"
			stroke-width="2.2"
		/>
	{:else if name === 'rosette'}
		<path
			d="M20 15C14 8 14 3 20 3s6 5 0 12C29 12 34 15 32 20s-8 4-12-5c4 9 0 12-5 12s-6-6 5-12C12 19 7 18 6 13s5-6 14 2z"
		/><path d="M20 15C14 8 14 3 20 3s6 5 0 12" stroke="var(--madder)" stroke-width="2.2" />
	{:else if name === 'in-between'}
		<path d="M4 26C10 20 28 20 36 26" /><path d="M6 4c8 8 20 8 28 0" /><path
			d="M5 19c8-4 22-4 30 0M5 12c8 2 22 2 30 0"
			stroke="var(--madder)"
			stroke-width="1.6"
		/>
	{:else if name === 'hold'}
		<path d="M6 24L30 22 32 6" /><path d="M8 24.500h22V6" stroke="var(--madder)" stroke-width="2.2" /><path
			d="M25 24v-5h5"
			stroke="var(--soft)"
		/>
	{:else if name === 'sizes'}
		<path d="M4 20h32M4 14v12M36 14v12" stroke="var(--madder)" stroke-width="2" /><path
			d="M12 17v6m8-6v6m8-6v6"
			stroke="var(--soft)"
		/><path d="M9 8h7m3 0h4" />
	{:else if name === 'fair'}
		<path
			d="M3 20l3-4 2 3 3-5 2 3 3-4 3 4 3-3 3 4 3-2 3 4 3-3 3 3"
			stroke="var(--soft)"
			stroke-width="1"
		/><path d="M3 19c11-8 22-6 34 1" stroke="var(--madder)" stroke-width="2.2" /><path
			d="M3 13c11-8 22-6 34 1M3 25c11-8 22-6 34 1"
			stroke="var(--soft)"
			stroke-width="0.800"
			stroke-dasharray="3 3"
		/>
	{:else if name === 'redraw'}
		<path d="M3 22h9m16 0h9" /><path
			d="M12 22l3-3 2 4 3-5 3 5 2-3 3 2"
			stroke="var(--soft)"
			stroke-width="1"
		/><path d="M12 22c4-15 12-15 16 0" stroke="var(--madder)" stroke-width="2.2" />
	{:else if name === 'comb'}
		<path d="M4 27C14 27 16 14 24 14s10 6 12 9" /><path
			d="M12 24l-3-6m6 2l-5-7m8 3l-3-10m7 8v-11m5 11l3-9"
			stroke="var(--madder)"
			stroke-width="1.100"
		/>
	{:else if name === 'place'}
		<path d="M6 20l10-12 12 4-4 13z" fill="var(--wash)" /><path
			d="M27 5c6 2 9 8 7 14m0 0l-3-3m3 3l4-3"
			stroke="var(--madder)"
		/>
	{:else if name === 'soft'}
		<path d="M4 24C14 24 15 9 20 9s6 15 16 15" /><path
			d="M4 24h32"
			stroke="var(--soft)"
			stroke-width="1"
			stroke-dasharray="2 3"
		/><path d="M20 9V3m-3 3l3-3 3 3" stroke="var(--madder)" />
	{:else if name === 'picture'}
		<path d="M8 5h24v22H8z" /><path d="M8 22l7-7 5 4 5-7 7 8" /><circle cx="14" cy="10.5" r="2" />
	{:else if name === 'scan'}
		<path d="M5 19h30v7H5zM9 19l5-12h18" /><path d="M10 22.5h20" stroke-dasharray="3 2" />
	{:else if name === 'rule'}
		<path d="M4 12h32v9H4zM9 12v4m5-4v3m5-3v4m5-4v3m5-3v4" />
	{:else if name === 'svg' || name === 'dxf' || name === 'file'}
		<path d="M10 4h14l6 6v18H10z" /><path d="M24 4v6h6" /><path
			d="M14 22c2-6 5-6 6-3s4 3 6-3"
			stroke="var(--madder)"
		/>
	{:else if name === 'open'}
		<path d="M6 26V8h10l3 4h15v14z" /><path d="M20 22v-7m-3 3l3-3 3 3" stroke="var(--madder)" />
	{:else}
		<path d="M5 22c6-9 10-9 15-3s9 4 15-6" stroke-dasharray="4 3" />
	{/if}
</svg>
