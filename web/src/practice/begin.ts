// Begins a scenario in a review of its own.
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, newKey, wordsOf } from '../shared/server'

export function useBegin() {
  const router = useRouter()
  const trouble = ref('')
  const beginning = ref('')
  async function begin(scenario: string) {
    if (beginning.value) return
    beginning.value = scenario
    trouble.value = ''
    const id = newKey()
    try {
      await ask(api.POST('/api/v1/practice', { body: { id, scenario } }))
      await router.push(`/reviews/${id}/${scenario === 'first-afternoon' ? 'radio' : 'practice'}`)
    } catch (e) {
      trouble.value = wordsOf(e)
    } finally {
      beginning.value = ''
    }
  }
  return { beginning, trouble, begin }
}
