/** Playwright's test, in which no page breaks unseen. */
import { expect, test as base } from '@playwright/test';

export * from '@playwright/test';

export const test = base.extend<{ whole: undefined }>({
	whole: [
		async ({ context }, use) => {
			const broken: string[] = [];
			context.on('weberror', (error) => broken.push(error.error().stack ?? String(error.error())));
			await use(undefined);
			expect(broken).toEqual([]);
		},
		{ auto: true }
	]
});
