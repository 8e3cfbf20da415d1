/** How programs are laid out. */
export type School = 'page' | 'song' | 'direct'

export const schools: { id: School; name: string }[] = [
  { id: 'page', name: 'One page for the whole night' },
  { id: 'song', name: 'A bank per song' },
  { id: 'direct', name: 'A switch for every loop' },
]
