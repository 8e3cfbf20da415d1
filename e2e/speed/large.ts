/** A plan that is as large as a working player's gets: the demo with its songs over and over until the set has 40, and boxes
 * added until the chain has 30 stops. */
export function large(demo: string): string {
  const plan = JSON.parse(demo)
  const songs = [...plan.songs]
  const set = plan.set_lists[0]
  for (let n = 2; set.entries.length < 40; n += 1)
    for (const song of songs) {
      if (set.entries.length >= 40) break
      const id = `${song.id}-${n}`
      plan.songs.push({ ...song, id, title: `${song.title} ${n}` })
      set.entries.push({ id: `${id}-in`, song: id })
    }
  const rig = plan.rigs[0]
  const chorus = plan.gear.find((g: { id: string }) => g.id === 'flutter')
  for (let n = 2; rig.path.length < 30; n += 1) {
    const id = `flutter-${n}`
    plan.gear.push({ ...chorus, id, name: `Flutter ${n}` })
    rig.path.splice(-2, 0, { stop: `${id}/fx` })
    rig.floor.places[id] = { x_mm: 20 + 75 * (n - 2), y_mm: -160 }
  }
  return JSON.stringify(plan)
}
