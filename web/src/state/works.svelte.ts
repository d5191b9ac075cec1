import { api, type Task } from '../api/client';

const isTask = (one: object): one is Task => 'state' in one && 'all' in one;
const PAUSE = 500;

/** Work on large maps that the workers do meanwhile. */
class Works {
	tasks = $state<Task[]>([]);

	/**
	 * What a request has made, at once or after the workers have.
	 *
	 * @throws if the workers could not, in their words, or it was cancelled
	 */
	async settle<T extends object>(request: Promise<T | Task>, again: (task: Task) => Promise<T>): Promise<T> {
		const answer = await request;
		if (!isTask(answer)) return answer;
		let task: Task = answer;
		this.put(task);
		try {
			while (task.state === 'waiting') {
				await new Promise((resolve) => setTimeout(resolve, PAUSE));
				task = await api.task(task.id);
				this.put(task);
			}
		} finally {
			this.tasks = this.tasks.filter((one) => one.id !== answer.id);
		}
		if (task.state !== 'done') throw new Error(task.state === 'failed' ? task.failure : 'It was cancelled.');
		return again(task);
	}

	async cancel(task: Task): Promise<void> {
		this.put(await api.cancelTask(task.id));
	}

	private put(task: Task): void {
		const at = this.tasks.findIndex((one) => one.id === task.id);
		if (at < 0) this.tasks.push(task);
		else this.tasks[at] = task;
	}
}

export const works = new Works();
