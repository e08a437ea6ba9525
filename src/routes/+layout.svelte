<script lang="ts">
	import '../app.css';
	// Numbers are written as the person wishes from the first one on.
	import '$lib/stores/said/locale.svelte';
	let { children } = $props();
</script>

{@render children()}
