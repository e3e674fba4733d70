// What stands on a screen that a calculation may be filled in with: frequencies in MHz, powers in W.
import { ref } from 'vue'

export interface Standing { mhz?: string; w?: string; read?: string; power?: string; dbm?: string; loss?: string; swr?: string; book?: string }
export const standing = ref<Standing>({})
/** Says what stands on the screen now. */
export function stands(now: Standing) {
  standing.value = Object.fromEntries(Object.entries(now).filter(([, v]) => v)) as Standing
}
