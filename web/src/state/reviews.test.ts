import { expect, test } from 'vitest';
import type { Comment } from '../api/client';
import { threadsOf } from './reviews.svelte';

const said = (id: number, answers: number | null = null, resolved = false): Comment => ({ id, at: '', who: 'Ada', yours: true, text: `${id}`, answers, version: 1, resolved, resolvedBy: '', pin: null });

test('comments come as threads: what is open first, the latest before', () => {
	const { open, resolved } = threadsOf([said(1), said(2, null, true), said(3, 1), said(4), said(5, 2), said(6, 1)]);
	expect(open.map((one) => [one.id, one.replies.map((reply) => reply.id)])).toEqual([[4, []], [1, [3, 6]]]);
	expect(resolved.map((one) => [one.id, one.replies.length])).toEqual([[2, 1]]);
});
