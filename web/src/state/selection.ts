/** What the values panel shows. */
export type Selection = { kind: 'step'; path: string } | { kind: 'layer'; index: number } | { kind: 'group'; id: string } | { kind: 'object'; id: string } | { kind: 'parameter'; id: string } | { kind: 'surface' };
