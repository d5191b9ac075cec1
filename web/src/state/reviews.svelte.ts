import { api, type Comment, type CommentPin } from '../api/client';

export type Thread = Comment & { replies: Comment[] };

/** What is said of a material: threads, each with its answers. */
export function threadsOf(comments: readonly Comment[]): { open: Thread[]; resolved: Thread[] } {
	const threads = comments.filter((one) => one.answers === null).map((one) => ({ ...one, replies: comments.filter((other) => other.answers === one.id) }));
	return { open: threads.filter((one) => !one.resolved).reverse(), resolved: threads.filter((one) => one.resolved).reverse() };
}

export class Reviews {
	all = $state.raw<Comment[]>([]);
	readonly threads = $derived(threadsOf(this.all));

	constructor(private readonly material: number) {}

	async load(): Promise<void> {
		this.all = await api.comments(this.material);
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
