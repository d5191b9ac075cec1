import { api, type Comment, type CommentPin, type MaterialDocument, type Revision } from '../api/client';

export type Thread = Comment & { replies: Comment[] };

/** What is said of a material: threads, each with its answers. */
export function threadsOf(comments: readonly Comment[]): { open: Thread[]; resolved: Thread[] } {
	const threads = comments.filter((one) => one.answers === null).map((one) => ({ ...one, replies: comments.filter((other) => other.answers === one.id) }));
	return { open: threads.filter((one) => !one.resolved).reverse(), resolved: threads.filter((one) => one.resolved).reverse() };
}

export class Reviews {
	all = $state.raw<Comment[]>([]);
	/** What was approved last, with its document; null if nothing was. */
	approved = $state.raw<(Revision & { document: MaterialDocument }) | null>(null);
	private revisions = $state.raw<Revision[]>([]);
	readonly threads = $derived(threadsOf(this.all));

	constructor(private readonly material: number) {}

	async load(): Promise<void> {
		[this.all, this.revisions] = await Promise.all([api.comments(this.material), api.revisions(this.material)]);
		const last = this.revisions.find((one) => one.approvedBy !== '');
		this.approved = last === undefined ? null : this.approved?.id === last.id && this.approved.approvedBy === last.approvedBy ? this.approved : await api.revision(last.id);
	}

	/** Says of the version that is stored that it is as it should be, or takes that back. */
	async approve(version: number, approved: boolean): Promise<void> {
		await this.load();
		const one = this.revisions.find((found) => found.version === version && !found.aside);
		if (one !== undefined) await api.approve(one.id, approved);
		await this.load();
	}

	async say(text: string, pin: CommentPin | null, answers: number | null = null): Promise<void> {
		this.all = await api.say(this.material, text, pin, answers);
	}

	async resolve(one: Comment, resolved: boolean): Promise<void> {
		this.all = await api.changeComment(one.id, { resolved });
	}

	async take(one: Comment): Promise<void> {
		await api.takeComment(one.id);
		await this.load();
	}
}
