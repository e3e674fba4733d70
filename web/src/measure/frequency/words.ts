// Errors as they are shown: with their sign, never as minus nought.
const signed = (v: number, digits: number) => {
  const shown = v.toFixed(digits)
  return (Number(shown) === 0 ? (0).toFixed(digits) : v > 0 ? `+${shown}` : shown).replace('-', '\u2212')
}
export const ppm = (v: number) => signed(v, Math.abs(v) < 10 ? 2 : 1)
export const hertz = (v: number) => `${signed(v, 0)} Hz`
