import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answer, client } from './client'

/** A text once nobody has typed for a moment. */
function useRested(text: string): string {
  const [rested, rest] = useState(text)
  useEffect(() => {
    const timer = setTimeout(() => rest(text), 200)
    return () => clearTimeout(timer)
  }, [text])
  return rested
}

/** What a chain that is being typed means. Nothing is changed. */
export function useTypedChain(text: string, name: string) {
  const body = { text: useRested(text), name: useRested(name) }
  const query = useQuery({
    queryKey: ['typed', 'chain', body],
    queryFn: ({ signal }) => answer(client.POST('/api/typed/chain', { body, signal })),
    enabled: body.text.trim() !== '',
    placeholderData: keepPreviousData,
    retry: false,
  })
  return { ...query, rested: body.text === text && body.name === name && !query.isPlaceholderData }
}

/** What a set that is being typed or was pasted means. Nothing is changed. */
export function useTypedSet(text: string, name: string, pattern: string) {
  const body = { text: useRested(text), name: useRested(name), pattern: useRested(pattern) }
  const query = useQuery({
    queryKey: ['typed', 'set', body],
    queryFn: ({ signal }) => answer(client.POST('/api/typed/set', { body, signal })),
    enabled: body.text.trim() !== '',
    placeholderData: keepPreviousData,
    retry: false,
  })
  const asked = body.text === text && body.name === name && body.pattern === pattern
  return { ...query, rested: asked && !query.isPlaceholderData }
}
