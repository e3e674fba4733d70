// A question with its answer. The answer belongs to what was asked about: when that
// changes there is none until it comes, and one that was overtaken is dropped. A server
// that does not answer is asked again until it does.
import { QueryClient, useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { NoAnswer, Refusal, wordsOf } from './call'

export const questions = new QueryClient({
  defaultOptions: {
    queries: {
      networkMode: 'always',
      retry: (_, e) => e instanceof NoAnswer,
      retryDelay: (n) => Math.min(4000, 500 * 2 ** n),
      refetchOnWindowFocus: true,
    },
  },
})

export interface Asked<T> {
  /** The answer to what is asked about now; null until it is there. */
  answer: Ref<T | null>
  /** What went wrong with the last try; empty where nothing did. */
  trouble: Ref<string>
  /** What is asked about was refused: it would be again. */
  refused: Ref<boolean>
  waiting: Ref<boolean>
  again: () => Promise<unknown>
}

/** Asks about something, again whenever it changes; about null nothing is asked. The words
 * of a question name it, and what it is about is all it may look at. Until the answer is
 * there, one to a question before may stand, where standsFor says so. */
export function useAsked<A extends unknown[], T>(name: string, about: () => readonly [...A] | null, question: (...about: A) => Promise<T>, standsFor?: (before: A, now: A) => boolean): Asked<T> {
  const now = computed(about)
  const q = useQuery<T, Error, T, readonly unknown[]>({
    queryKey: computed((): readonly unknown[] => [name, ...(now.value ?? [])]),
    enabled: computed(() => now.value !== null),
    queryFn: ({ queryKey }) => question(...(queryKey.slice(1) as unknown as A)),
    placeholderData: ((old: T | undefined, before?: { queryKey: readonly unknown[] }) => {
      const was = before?.queryKey.slice(1) as unknown as A | undefined
      return was && now.value && standsFor?.(was, now.value as unknown as A) ? old : undefined
    }) as never,
  }, questions)
  return {
    answer: computed(() => (now.value === null ? null : ((q.data.value as T | undefined) ?? null))),
    trouble: computed(() => {
      const e = q.failureReason.value ?? q.error.value
      return now.value !== null && e ? wordsOf(e) : ''
    }),
    refused: computed(() => now.value !== null && q.error.value instanceof Refusal),
    waiting: q.isFetching,
    again: () => q.refetch(),
  }
}

/** Asks anew whatever has one of these words in its name or is about one of these ids. */
export function askAnew(...of: string[]): Promise<void> {
  return questions.invalidateQueries({ predicate: (q) => q.queryKey.some((k) => typeof k === 'string' && of.includes(k)) })
}
