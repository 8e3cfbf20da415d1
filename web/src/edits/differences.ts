import { tagOf } from '../api/client'
import type { components } from '../api/schema.gen'

type ChangedPart = components['schemas']['ChangedPart']

/** An answer with what became different in it: a new object, in which all else is what it was. Undefined where the
 * answer that is here is not the one that is meant. */
export function withDifferences(data: unknown, since: string, changed: ChangedPart[]): unknown {
  if (typeof data !== 'object' || data === null || tagOf(data) !== since) return undefined
  const next: Record<string, unknown> = { ...data }
  const copied = new Set<string>()
  for (const { field, index, to } of changed) {
    if (index === undefined) next[field] = to
    else {
      const list = next[field]
      if (!Array.isArray(list) || index >= list.length) return undefined
      if (!copied.has(field)) next[field] = [...list]
      copied.add(field)
      ;(next[field] as unknown[])[index] = to
    }
  }
  return next
}
