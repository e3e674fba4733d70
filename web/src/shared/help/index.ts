// The keys that work on a screen and its words: each screen says its own, and one panel shows them.
import { computed, onActivated, onBeforeUnmount, onDeactivated, onMounted, ref, shallowReactive } from 'vue'
import type { Word } from './words'

export type Key = readonly [key: string, does: string]
export interface Help {
  title: string
  keys: readonly Key[]
  words: readonly Word[]
}

const told = shallowReactive(new Map<symbol, () => Help>())
export const helps = computed(() => [...told.values()].map((h) => h()))
export const helpOpen = ref(false)

/** Says what works on this screen, for as long as it is there. */
export function useHelp(help: () => Help) {
  const me = Symbol()
  const on = () => void told.set(me, help)
  const off = () => void told.delete(me)
  onMounted(on)
  onActivated(on)
  onDeactivated(off)
  onBeforeUnmount(off)
}
