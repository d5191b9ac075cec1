import { api, onReached, onRole, onSignedOut, type Me, type PersonRole } from '../api/client';

/** What roles may, as the server has it: app/src/Entity/Role.php. */
const MAY: Record<PersonRole, readonly Right[]> = {
	owner: ['comment', 'write', 'own'],
	editor: ['comment', 'write'],
	reviewer: ['comment'],
	viewer: []
};
export type Right = 'comment' | 'write' | 'own';

/** Whoever is signed in, and what they are in the project that is open. */
class AccountState {
	me = $state.raw<Me | null>(null);
	/** Whether somebody has to sign in before anything goes on. */
	out = $state(false);
	role = $state<PersonRole>('owner');

	constructor() {
		onRole((role) => (this.role = role));
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
		return MAY[this.role].includes(right);
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
