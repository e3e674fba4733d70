/** A current to three significant figures: in mA under a tenth of an ampere. */
export function amps(a: number): string {
  const [v, unit] = Math.abs(a) < 0.1 ? [a * 1e3, 'mA'] : [a, 'A']
  return `${Number(v.toPrecision(3))} ${unit}`
}
