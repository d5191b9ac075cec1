/** Views that are fetched when they are first wanted: those with a stage bring the whole of what draws it. */
export const lazy = {
	guide: () => import('../parts/GuideSheet.svelte'),
	device: () => import('./Device.svelte'),
	maps: () => import('./Maps.svelte'),
	recipe: () => import('./RecipeBench.svelte'),
	workbench: () => import('./Workbench.svelte')
};

/** Fetches a view that is likely to be wanted next. */
export function ahead(view: keyof typeof lazy): void {
	lazy[view]().catch(() => {
		// Whoever opens it is told.
	});
}
