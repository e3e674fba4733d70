import { useLocalStorage, type RemovableRef } from '@vueuse/core'

/** A value that a reload does not lose, kept in this browser; each window has its own
 * while it is open. */
export function remember<T>(name: string, first: T): RemovableRef<T> {
  return useLocalStorage<T>(`talloak ${name}`, first, { listenToStorageChanges: false, flush: 'sync' })
}
