import { onActivated, onDeactivated, ref } from 'vue'

/** Whether a part of the page that is kept while one looks elsewhere is the one looked at:
 * keys and what is pasted are meant for it only then. */
export function useHere() {
  const here = ref(true)
  onActivated(() => (here.value = true))
  onDeactivated(() => (here.value = false))
  return here
}
