export const signalWords = { 'voice-peak': 'voice peak', tone: 'tone', 'sub-audible': 'sub-audible tone' } as const
export const kilohertz = (hz: number) => (hz / 1e3).toFixed(2).replace('-', '\u2212')
