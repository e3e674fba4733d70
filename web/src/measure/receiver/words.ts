import { megahertz } from '../../shared/figures'
import type { Schemas } from '../../shared/server'

type Measured = Schemas['ReceiverMeasured']
export const name = (m: Measured) => (m.what === 's-meter' ? m.mark : m.what === 'neighbour' ? `neighbour at ${megahertz(m.apart_hz)}` : m.what)
export const level = (v: number) => `${v.toFixed(0).replace('-', '\u2212')} dBm`
export const difference = (v: number) => `${v > 0 ? '+' : ''}${v.toFixed(0).replace('-', '\u2212')} dB`
