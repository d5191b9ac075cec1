/** The clock of the workbench: seconds that run, stand, or are dragged. */
export class Clock {
	seconds = $state(0);
	playing = $state(false);
	speed = $state(1);
	/** Seconds after which it begins again. */
	loop = $state(20);
	/** Called whenever the time has changed. */
	onTime: () => void = () => {};
	private last = 0;
	private frame = 0;

	toggle(): void {
		if (this.playing) this.pause();
		else this.play();
	}

	play(): void {
		if (this.playing) return;
		this.playing = true;
		this.last = performance.now();
		this.frame = requestAnimationFrame(this.tick);
	}

	pause(): void {
		this.playing = false;
		cancelAnimationFrame(this.frame);
	}

	seek(seconds: number): void {
		this.seconds = Math.max(0, Math.min(this.loop, seconds));
		this.onTime();
	}

	private readonly tick = (now: number): void => {
		if (!this.playing) return;
		this.seconds = (this.seconds + ((now - this.last) / 1000) * this.speed) % this.loop;
		this.last = now;
		this.onTime();
		this.frame = requestAnimationFrame(this.tick);
	};
}
