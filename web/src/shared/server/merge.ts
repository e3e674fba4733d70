// Three versions of one thing put together field by field. A list is one field: two
// tables of figures are never mixed.

export type Tree = { [key: string]: unknown }

const isTree = (v: unknown): v is Tree => typeof v === 'object' && v !== null && !Array.isArray(v)
export const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null)

/** A copy that nothing else holds. */
export const copy = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T

export interface Clash {
  field: string
  mine: unknown
  theirs: unknown
}

/** Mine and theirs, both made from before: what only one of them changed is taken from
 * that one; what both did, each in its own way, stays mine and is a clash. */
export function merge(before: unknown, mine: unknown, theirs: unknown, clashes: Clash[] = [], field = ''): unknown {
  if (isTree(mine) && isTree(theirs)) {
    const was = isTree(before) ? before : {}
    const out: Tree = {}
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      const v = merge(was[key], mine[key], theirs[key], clashes, field ? `${field}.${key}` : key)
      if (v !== undefined) out[key] = v
    }
    return out
  }
  if (same(before, mine) || same(mine, theirs)) return theirs
  if (!same(before, theirs)) clashes.push({ field, mine, theirs })
  return mine
}

/** Whether what was sent, made from before, is in theirs: all that it changed stands there. */
export function written(before: unknown, sent: unknown, theirs: unknown): boolean {
  if (!isTree(sent) || !isTree(theirs)) return same(before, sent) || same(sent, theirs)
  const was = isTree(before) ? before : {}
  return [...new Set([...Object.keys(was), ...Object.keys(sent)])].every((key) => written(was[key], sent[key], theirs[key]))
}

export function put(tree: Tree, field: string, value: unknown): Tree {
  const out = copy(tree)
  const keys = field.split('.')
  let at = out
  for (const key of keys.slice(0, -1)) at = (at[key] ??= {}) as Tree
  if (value === undefined || value === null) delete at[keys.at(-1)!]
  else at[keys.at(-1)!] = value
  return out
}
