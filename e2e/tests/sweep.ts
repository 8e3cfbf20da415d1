/** What is looked for on a page at one size. Each fault is a line that says where and what. */
export interface Limits {
  /** The least side of what is pressed, in px. */
  target: number
}

/** Goes through the page as it stands. It runs in the page, so it uses nothing from outside. */
export function faults({ target }: Limits): string[] {
  const found: string[] = []
  // What holds many things is asked about for each of them, and read once: nothing is changed on the way.
  const remembered = <T>(read: (e: Element) => T) => {
    const known = new Map<Element, T>()
    return (e: Element) => {
      const before = known.get(e)
      if (before !== undefined) return before
      const now = read(e)
      known.set(e, now)
      return now
    }
  }
  const rightOf = remembered((e) => e.getBoundingClientRect().right)
  const overflowOf = remembered((e) => getComputedStyle(e).overflowX)
  // What is only read out stands in a box of one px.
  const readOut: (e: Element) => boolean = remembered((e) => {
    if (e === document.body || !e.parentElement) return false
    if (e instanceof HTMLElement && e.offsetWidth <= 1 && getComputedStyle(e).overflow !== 'visible')
      return true
    return readOut(e.parentElement)
  })
  const shown = (e: Element) =>
    e.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true }) &&
    e.getBoundingClientRect().width > 1 &&
    !readOut(e)
  const say = (e: Element) =>
    `${e.tagName.toLowerCase()}${e.getAttribute('role') ? `[${e.getAttribute('role')}]` : ''} "${(
      e.getAttribute('aria-label') ??
      e.textContent ??
      ''
    )
      .trim()
      .slice(0, 40)}"`
  const main = document.querySelector('main')

  // Boxes: nothing is wider than the screen.
  const wide = [
    document.documentElement.scrollWidth - innerWidth,
    (main?.scrollWidth ?? 0) - (main?.clientWidth ?? 0),
    (main?.getBoundingClientRect().right ?? 0) - innerWidth,
  ]
  if (wide.some((px) => px > 1)) found.push(`wide: by ${wide}`)

  for (const e of document.body.querySelectorAll<HTMLElement | SVGElement>('*')) {
    const own = [...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.textContent?.trim())
    if (!own || !shown(e)) continue
    const style = getComputedStyle(e)
    const box = e.getBoundingClientRect()
    if (box.right < 0 || box.height < 2 || style.clipPath !== 'none') continue
    // Text: 12 px and more, as it is seen.
    const to = e instanceof SVGGraphicsElement ? e.getScreenCTM() : null
    const px = Number.parseFloat(style.fontSize) * (to ? Math.hypot(to.a, to.b) : 1)
    if (px < 11.9) found.push(`small: ${px.toFixed(1)} px, ${say(e)}`)
    // Names that are cut have the whole at hand.
    if (e instanceof HTMLElement && e.scrollWidth > e.clientWidth + 1 && style.overflowX !== 'visible') {
      const scrolls = style.overflowX === 'auto' || style.overflowX === 'scroll'
      if (!scrolls && !e.closest('[title]')) found.push(`cut: ${say(e)}`)
      if (!scrolls && style.textOverflow !== 'ellipsis') found.push(`cut without dots: ${say(e)}`)
    }
    // And text stays inside whatever would cut it.
    if (e instanceof HTMLElement && style.overflowX === 'visible') {
      const text = document.createRange()
      text.selectNodeContents(e)
      const right = text.getBoundingClientRect().right
      for (let up = e.parentElement; up && up !== document.body; up = up.parentElement) {
        const overflow = overflowOf(up)
        if (overflow === 'auto' || overflow === 'scroll') break
        if (overflow === 'visible') continue
        if (right > rightOf(up) + 1.5) found.push(`cut by ${say(up)}: ${say(e)}`)
        break
      }
    }
  }

  // Targets are large enough for a thumb; a link in a line of text is as high as the line.
  const pressed =
    'button, a[href], input, select, textarea, summary, [role=switch], [role=tab], [role=slider], [role=checkbox], [role=radio], [role=option]'
  for (const e of document.body.querySelectorAll<HTMLElement>(pressed)) {
    const field = e instanceof HTMLInputElement && (e.closest('label') as HTMLElement | null)
    const at = field || e
    if (!shown(at)) continue
    const box = at.getBoundingClientRect()
    const style = getComputedStyle(at)
    if (e.tagName === 'A' && style.display === 'inline') continue
    // A section in the time line of the set is as wide as it is long; its song and the steps beside it are large enough.
    if (e.closest('[aria-label="The set"] [role=group]') && !e.hasAttribute('aria-current')) continue
    if (box.width < target - 0.5 || box.height < target - 0.5)
      found.push(`target: ${Math.round(box.width)}x${Math.round(box.height)}, ${say(e)}`)
  }

  // Controls of one region can be told apart by their names.
  const nameOf = (e: Element) =>
    (
      e.getAttribute('aria-label') ??
      (e.getAttribute('aria-labelledby') ?? '')
        .split(' ')
        .map((id) => document.getElementById(id)?.textContent ?? '')
        .join(' ')
    ).trim() || (e.textContent ?? '').trim()
  const named = new Map<string, Set<unknown>>()
  for (const e of document.body.querySelectorAll<HTMLElement>('button, a[href]')) {
    if (!shown(e)) continue
    const name = nameOf(e)
    if (!name) found.push(`no name: ${say(e)}`)
    const region = e.parentElement?.closest('[aria-label], [aria-labelledby]')
    const key = `${e.getAttribute('role') ?? e.tagName} "${name}" in "${region ? nameOf(region) : ''}"`
    // Links of one name may lead to one place.
    named.set(key, (named.get(key) ?? new Set()).add(e instanceof HTMLAnchorElement ? e.href : e))
  }
  for (const [key, all] of named) if (all.size > 1) found.push(`name ${all.size} times: ${key}`)
  return [...new Set(found)]
}
