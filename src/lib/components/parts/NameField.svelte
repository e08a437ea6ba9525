<script lang="ts">
	/** A name that is typed: Enter and leaving keep it, Escape gives the old one back. */
	let {
		value,
		label,
		placeholder,
		class: kind = '',
		onname
	}: {
		value: string;
		label: string;
		placeholder?: string;
		class?: string;
		/** The name without blanks around it; it may be empty. */
		onname: (name: string) => void;
	} = $props();
</script>

<input
	class="field {kind}"
	{value}
	{placeholder}
	aria-label={label}
	onkeydown={(e) => {
		e.stopPropagation();
		if (e.key === 'Escape') e.currentTarget.value = value;
		if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
	}}
	onchange={(e) => {
		const name = e.currentTarget.value.trim();
		if (name !== value) onname(name);
	}}
/>
