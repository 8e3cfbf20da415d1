/** Letters for a new sound that no other has. */
export function letters(name: string, taken: string[]): string {
  const plain = name.toUpperCase().replace(/[^A-Z0-9]/g, '') || 'S'
  const first = plain.slice(0, 1)
  const options = [
    plain.slice(0, 2),
    ...Array.from(plain.slice(1), (c) => first + c),
    ...Array.from({ length: 99 }, (_, n) => first + (n + 1)),
    ...Array.from({ length: 999 }, (_, n) => String(n + 1)),
  ]
  return options.find((o) => !taken.includes(o)) ?? plain.slice(0, 3)
}
