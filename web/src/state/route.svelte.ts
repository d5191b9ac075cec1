import navaid from 'navaid';

export type Route =
	| { view: 'projects' }
	| { view: 'shelf'; project: string }
	| { view: 'maps'; project: string }
	| { view: 'device'; project: string }
	| { view: 'workbench'; project: string; material: number }
	| { view: 'recipe'; project: string; recipe: number }
	| { view: 'sign-in'; secret: string; look: boolean }
	| { view: 'lost' }
	/** not known yet: nothing is shown, and nothing asked for */
	| { view: 'none' };

class Router {
	route = $state<Route>({ view: 'none' });
	private readonly router = navaid('/', () => (this.route = { view: 'lost' }));

	constructor() {
		this.router
			.on('/', () => (this.route = { view: 'projects' }))
			.on('/sign-in', () => (this.route = { view: 'sign-in', secret: location.hash.slice(1), look: false }))
			.on('/look', () => (this.route = { view: 'sign-in', secret: location.hash.slice(1), look: true }))
			.on('/:project', (p) => (this.route = { view: 'shelf', project: p?.project ?? '' }))
			.on('/:project/maps', (p) => (this.route = { view: 'maps', project: p?.project ?? '' }))
			.on('/:project/device', (p) => (this.route = { view: 'device', project: p?.project ?? '' }))
			.on('/:project/recipes/:id', (p) => {
				const recipe = Number(p?.id);
				this.route = Number.isInteger(recipe) && recipe > 0 ? { view: 'recipe', project: p?.project ?? '', recipe } : { view: 'lost' };
			})
			.on('/:project/materials/:id', (p) => {
				const material = Number(p?.id);
				this.route = Number.isInteger(material) && material > 0
					? { view: 'workbench', project: p?.project ?? '', material }
					: { view: 'lost' };
			});
	}

	listen(): void {
		this.router.listen();
	}

	go(path: string): void {
		this.router.route(path);
	}
}

export const router = new Router();
