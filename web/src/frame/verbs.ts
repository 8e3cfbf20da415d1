/** The verbs of the work that have a screen, with the number key each has for good. */
export const verbs = [
  { key: '1', path: '/hear', name: 'Hear' },
  { key: '2', path: '/own', name: 'Own' },
  { key: '3', path: '/order', name: 'Order' },
  { key: '4', path: '/balance', name: 'Balance' },
  { key: '5', path: '/step', name: 'Step' },
  { key: '6', path: '/build', name: 'Build' },
  { key: '7', path: '/play', name: 'Play' },
  { key: '8', path: '/pack', name: 'Pack' },
] as const

/** The verbs of a device: a stand reads what goes to the gig. */
export const verbsOf = (stand: boolean) =>
  verbs.filter((v) => !stand || v.path === '/play' || v.path === '/pack')
