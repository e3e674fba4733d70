// How an item of kit is kept as it is typed.
import { api, ask, keep, type Kept, type Sort } from '../../shared/server'
import { useBench, type Kit } from '../bench'
import type { Spec } from './fields'

export type Content = { name: string; spec: Spec; retired: boolean }

const contentOf = (k: Kit) => ({ version: k.version, content: { name: k.name, spec: k.spec, retired: k.retired_at != null } as Content })

// A carrier that goes with the next write of an item, where a file was dropped on it.
const carriers = new Map<string, number>()
export const useCarrier = () => ({ of: (id: string, hz: number) => void (hz ? carriers.set(id, hz) : carriers.delete(id)) })

export const sort: Sort<Content> = {
  what: 'kit',
  read: async (id) => {
    const b = await ask(api.GET('/api/v1/bench'))
    const k = b.kit.find((x) => x.id === id)
    if (!k) throw new Error('this item is not on the bench any more')
    return contentOf(k)
  },
  write: async (id, version, { name, spec, retired }) => {
    const carrier = carriers.get(id)
    const query = carrier ? { carrier_hz: carrier } : {}
    const got = await ask(api.PUT('/api/v1/kit/{id}', { params: { path: { id }, query }, body: { version, name, spec, retired } }))
    carriers.delete(id)
    useBench().keepKit(got)
    return contentOf(got)
  },
}

export const keepKit = (k: Kit): Kept<Content> => keep(sort, k.id, contentOf(k))
