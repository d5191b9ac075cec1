<script lang="ts">
	import TopBar from '../parts/TopBar.svelte';
</script>

<TopBar project={null} projectName="" view="shelf" />
<main>
	<h1>There is nothing here.</h1>
	<p>The address may be old, or mistyped. <a href="/">Go to the projects.</a></p>
</main>

<style>
	main {
		max-width: 480px;
		margin: 15vh auto 0;
		text-align: center;
	}
	h1 {
		font-size: 20px;
		font-weight: 600;
		line-height: 32px;
	}
	a {
		color: var(--accent);
	}
</style>
