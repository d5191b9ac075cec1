import { expect, test, vi } from 'vitest';

vi.stubGlobal('location', { assign: vi.fn() });
const answers = { me: { open: false, fresh: false, person: null as object | null } };
vi.stubGlobal('fetch', vi.fn((url: string) => Promise.resolve(url === '/api/me' ? new Response(JSON.stringify(answers.me)) : new Response(JSON.stringify({ title: 'Signed out', status: 401, detail: 'Sign in to go on.', problems: [] }), { status: 401 }))));

test('whoever is not signed in is asked to, once the server says so; another person begins anew', async () => {
	const { account } = await import('./account.svelte');
	const { api } = await import('../api/client');
	answers.me = { open: false, fresh: false, person: { id: 3, name: 'Ada' } };
	await account.load();
	expect(account.out).toBe(false);
	await expect(api.projects(false)).rejects.toThrow('Sign in to go on.');
	expect(account.out).toBe(true);
	await account.entered();
	expect([account.out, vi.mocked(location.assign).mock.calls.length]).toEqual([false, 0]);
	answers.me = { open: false, fresh: false, person: { id: 4, name: 'Bo' } };
	await account.entered();
	expect(vi.mocked(location.assign)).toHaveBeenCalledWith('/');
	answers.me = { open: true, fresh: false, person: null };
	await account.load();
	expect(account.out).toBe(false);
});

test('whoever asks may what the server says of the project', async () => {
	const { account } = await import('./account.svelte');
	const { api } = await import('../api/client');
	expect(account.may('write')).toBe(true);
	for (const may of [['read'], ['read', 'comment'], ['read', 'comment', 'write']]) {
		vi.mocked(fetch).mockImplementationOnce(() => Promise.resolve(new Response(JSON.stringify({ slug: 'quay', may }))));
		await api.project('quay');
		expect((['read', 'comment', 'write', 'own'] as const).filter((right) => account.may(right))).toEqual(may);
	}
});
