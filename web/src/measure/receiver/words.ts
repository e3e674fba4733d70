import { megahertz } from '../../shared/figures'
import type { Schemas } from '../../shared/server'

type Measured = Schemas['ReceiverMeasured']
export const name = (m: Measured) => (m.what === 's-meter' ? m.mark : m.what === 'neighbour' ? `neighbour, ${megahertz(m.apart_hz)}` : m.what)
export const level = (v: number) => `${v.toFixed(0).replace('-', '\u2212')} dBm`
/** How far down an image or neighbour is needs no sign. */
export const shownDifference = (m: Measured) => (m.what === 's-meter' || m.what === 'squelch' ? difference(m.difference_db!) : difference(m.difference_db!).replace('+', ''))
export const difference = (v: number) => `${v > 0 ? '+' : ''}${v.toFixed(0).replace('-', '\u2212')} dB`
