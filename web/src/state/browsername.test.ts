import { expect, test } from 'vitest';
import { browserName } from './browsername';

test('browsers are called as people call them', () => {
	expect(browserName('Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/139.0.0.0 Safari/537.36')).toBe('Chrome on Linux');
	expect(browserName('Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/139.0.0.0 Safari/537.36 Edg/139.0.0.0')).toBe('Edge on Windows');
	expect(browserName('Mozilla/5.0 (Macintosh; Intel Mac OS X 14.5; rv:140.0) Gecko/20100101 Firefox/140.0')).toBe('Firefox on macOS');
	expect(browserName('curl/8.5.0')).toBe('curl/8.5.0');
	expect(browserName('')).toBe('A browser');
});
