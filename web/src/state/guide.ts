import { marked } from 'marked';

/** Letters of a name that is made of the first words. */
const LONGEST = 28;

/** A place of the guide: a paragraph or an entry of a list, under the heading of its part. */
export type GuideEntry = { part: string; title: string; html: string; text: string };

/** The guide as entries: the paragraphs of each part, and each entry of its lists that begins with a name. */
export function entries(source: string): GuideEntry[] {
	const found: GuideEntry[] = [];
	for (const part of source.split(/^## /m).slice(1)) {
		const [heading = '', ...lines] = part.split('\n');
		// Entries of the outermost lists; what is indented belongs to them.
		const blocks: string[] = [''];
		for (const line of lines) {
			if (/^- \*\*/.test(line) || line === '') blocks.push('');
			blocks[blocks.length - 1] += `${line}\n`;
		}
		for (const block of blocks.filter((one) => one.trim() !== '')) {
			const listed = /^- \*\*(.+?)\*\*/.exec(block);
			const body = listed === null ? block : block.replace(/^- /, '').replace(/^ {2}/gm, '');
			const html = marked.parse(body, { async: false });
			const text = html.replace(/<[^>]+>/g, '').replace(/&(amp|lt|gt|quot|#39);/g, (_, name: string) => ({ amp: '&', lt: '<', gt: '>', quot: '"', '#39': "'" })[name]!);
			const named = listed?.[1] ?? /^\*{1,2}(.+?)\*/.exec(body)?.[1] ?? (found.at(-1)?.part === heading.trim() ? beginning(text) : heading);
			found.push({ part: heading.trim(), title: named, html, text });
		}
	}
	return found;
}

/** The first words of a text. */
function beginning(text: string): string {
	const words = text.trim().replace(/\s+/g, ' ');
	return words.length <= LONGEST ? words : `${words.slice(0, LONGEST).replace(/\s+\S*$/, '')} …`;
}

/** Those that have all the words, by their beginnings; those that are called so first. */
export function searched(all: GuideEntry[], typed: string): GuideEntry[] {
	const words = typed.toLowerCase().split(/\s+/).filter((word) => word !== '');
	if (words.length === 0) return all;
	const has = (text: string, word: string): boolean => new RegExp(`(^|[^\\p{L}\\p{N}])${word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`, 'iu').test(text);
	const hits = all.filter((one) => words.every((word) => has(`${one.title} ${one.text}`, word)));
	return [...hits.filter((one) => words.every((word) => has(one.title, word))), ...hits.filter((one) => !words.every((word) => has(one.title, word)))];
}

/** Where something is told of: what is called so, or else what names it first. */
export function entryFor(all: GuideEntry[], term: string): GuideEntry | undefined {
	const named = (one: GuideEntry): boolean => one.title.toLowerCase() === term.toLowerCase();
	const told = new RegExp(`<(em|strong)>${term.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}</`);
	return all.find(named) ?? all.find((one) => told.test(one.html)) ?? searched(all, term)[0];
}
