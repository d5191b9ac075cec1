/** What pictures are lit by, as the core prints it: the functions litSurface and tonedLight. It comes with the catalogue. */
export const light: { code: string; sun: [number, number, number] } = { code: '', sun: [0, 1, 0] };
