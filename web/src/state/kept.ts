import { useLocalStorage } from 'usehooks-ts'

const asIs = (text: string) => text

/** Words that this browser keeps from visit to visit, the same wherever they are asked for; `first` until there are any, and
 * for no words at all. The third takes them back to that. */
export function useKept(key: string, first = ''): [string, (words: string) => void, () => void] {
  return useLocalStorage(`envex.${key}`, first, { serializer: asIs, deserializer: asIs })
}

/** The same of anything that JSON writes. What cannot be read, or is not what was kept, is as if it were not there. */
export function useKeptJSON<T>(
  key: string,
  first: T,
  is: (x: unknown) => x is T,
): [T, (x: T) => void, () => void] {
  return useLocalStorage<T>(`envex.${key}`, first, {
    deserializer: (text) => {
      try {
        const kept: unknown = JSON.parse(text)
        return is(kept) ? kept : first
      } catch {
        return first
      }
    },
  })
}
