// Instruments with a socket: what is known of them, and the word that is asked for once before a
// server that others reach connects anywhere.
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, ask, Refusal, useAsked, type Schemas } from './server'

export type Driver = Schemas['DriverView']

export const useInstruments = defineStore('instruments', () => {
  const asked = useAsked('kit drivers', () => [] as const, () => ask(api.GET('/api/v1/instruments')))
  const aware = ref(sessionStorage.getItem('talloak aware') === 'yes')
  const drivers = computed(() => asked.answer.value?.drivers ?? [])
  /** The drivers for a kind of kit: meters of any sort read power. */
  const meters = ['through-meter', 'terminating-meter', 'service-monitor']
  const drives = (kind: string) => drivers.value.filter((d) => d.kind === kind || (meters.includes(d.kind) && meters.includes(kind)))
  function know() {
    aware.value = true
    sessionStorage.setItem('talloak aware', 'yes')
  }
  /** Does something that connects. Where the server first wants a word about being open to others, that
   * is thrown once, and doing it again is the word. */
  async function connect<T>(what: (aware: boolean) => Promise<T>): Promise<T> {
    try {
      return await what(aware.value)
    } catch (e) {
      if (e instanceof Refusal && e.fields.some((f) => f.field === 'aware')) {
        know()
        throw new Error(`${e.message} Once more, and it connects.`, { cause: e })
      }
      throw e
    }
  }
  return { drivers, drives, off: computed(() => asked.answer.value?.off ?? false), connect, again: asked.again }
})
