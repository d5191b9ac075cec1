import { api, onMay, onReached, onSignedOut, type Me, type Right } from '../api/client';

/** Whoever is signed in, and what they may do in the project that is open. */
class AccountState {
	me = $state.raw<Me | null>(null);
	/** Whether somebody has to sign in before anything goes on. */
	out = $state(false);
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

	may(right: Right): boolean {
		return this.rights?.includes(right) ?? true;
	}

	/** After somebody has signed in: what was open goes on, unless it was somebody else's. */
	async entered(): Promise<void> {
		const before = this.me?.person?.id ?? null;
		await this.load();
		if (before !== null && this.me?.person?.id !== before) location.assign('/');
	}

	async leave(): Promise<void> {
		await api.signOut();
		location.assign('/');
	}
}

export const account = new AccountState();
