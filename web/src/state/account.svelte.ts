import { api, onMay, onReached, onSignedOut, type Me, type Right } from '../api/client';

/** Whoever is signed in, and what they may do in the project that is open. */
class AccountState {
	me = $state.raw<Me | null>(null);
	/** Whether somebody has to sign in before anything goes on. */
	out = $state(false);
	/** Whether they are signing out: nothing is kept or asked on the way any more. */
	leaving = false;
	/** What they may do in the project that is open; all, until it is known. */
	private rights = $state.raw<readonly Right[] | null>(null);

	constructor() {
		onMay((may) => (this.rights = may));
		onSignedOut(() => (this.out = true));
		onReached(() => {
			if (this.me === null) void this.load().catch(() => {});
		});
	}

	async load(): Promise<void> {
		this.me = await api.me();
		this.out = !this.me.open && this.me.person === null;
	}

	/** Whether they have to turn one-time codes on before anything else. */
	get owesCodes(): boolean {
		return this.me?.codes === true && this.me.person !== null && !this.me.person.guest && !this.me.person.codes;
	}

	may(right: Right): boolean {
		return this.rights?.includes(right) ?? true;
	}

	/** After somebody has signed in: what was open goes on, unless it was somebody else's. */
	async entered(): Promise<void> {
		const before = this.me?.person?.id ?? null;
		await this.load();
		if (before !== null && this.me?.person?.id !== before) location.assign('/');
	}

	/** Signs out; nothing of what one has worked on stays in this browser. */
	async leave(): Promise<void> {
		this.leaving = true;
		try {
			await api.signOut();
		} catch (error) {
			this.leaving = false;
			throw error;
		}
		const [{ drafts }, { eyes }] = await Promise.all([import('./drafts'), import('./eyes')]);
		await drafts.clear();
		eyes.forget();
		location.assign('/');
	}
}

export const account = new AccountState();
