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

test('roles may what the server lets them', async () => {
	const { account } = await import('./account.svelte');
	const may = (['owner', 'editor', 'reviewer', 'viewer'] as const).map((role) => {
		account.role = role;
		return (['comment', 'write', 'own'] as const).filter((right) => account.may(right));
	});
	expect(may).toEqual([['comment', 'write', 'own'], ['comment', 'write'], ['comment'], []]);
});
