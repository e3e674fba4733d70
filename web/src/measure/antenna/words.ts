export const setupWords = { stock: 'stock antenna', 'in-hand': 'in the hand', 'ground-plane': 'on a ground plane', other: 'another antenna', load: 'a load' } as const
export type Setup = keyof typeof setupWords
export const swr = (v: number) => (v < 10 ? v.toFixed(2) : v.toFixed(0))
