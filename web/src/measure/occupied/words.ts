export const signalWords = { voice: 'voice', tone: 'a tone', data: 'data', bare: 'not modulated' } as const
export type Signal = keyof typeof signalWords
export const kilohertz = (hz: number) => (hz / 1e3).toFixed(2).replace('-', '\u2212')
