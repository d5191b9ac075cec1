/** Hands a text to the person as a file. */
export function saved(text: string, name: string, type = 'text/plain'): void {
	const link = Object.assign(document.createElement('a'), { href: URL.createObjectURL(new Blob([text], { type })), download: name });
	link.click();
	URL.revokeObjectURL(link.href);
}
