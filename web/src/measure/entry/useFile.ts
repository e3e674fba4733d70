// A file goes with the line that names it, and with no other.
import { ref } from 'vue'

export interface Loaded { name: string; content: string; sweep?: string }

export function useFile(line: () => { value: string }, focus: () => void) {
  const loaded = ref<Loaded>()
  const of = (text: string) => (loaded.value && text.split('?')[0]!.trim() === loaded.value.name ? loaded.value : undefined)
  function take(file: Loaded) {
    loaded.value = file
    line().value = file.name
    focus()
  }
  return { of, take }
}
