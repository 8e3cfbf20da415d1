// One section at a time: by tap, by button, or by the keys that page-turn pedals send. Without this
// script the page is the whole set, one section under the other.
;(() => {
  const steps = Array.from(document.querySelectorAll('.step'))
  const songs = document.getElementById('songs')
  const where = document.getElementById('where')
  const swap = document.getElementById('swap')
  const body = document.body
  let at = 0
  const show = (n) => {
    at = Math.max(0, Math.min(steps.length - 1, n))
    for (const [i, s] of steps.entries()) s.classList.toggle('here', i === at)
    where.textContent = `${at + 1} / ${steps.length}`
    if (songs) {
      const starts = Array.from(songs.options, (o) => Number(o.value))
      songs.value = String(starts.filter((s) => s <= at + 1).pop() ?? 1)
    }
    document.getElementById('back').disabled = at === 0
    document.getElementById('on').disabled = at === steps.length - 1
    // The place is kept in the address, so that a reload comes back to it.
    if (location.hash !== `#s${at + 1}`) location.replace(`#s${at + 1}`)
    scrollTo(0, 0)
  }
  const fromAddress = () => {
    const n = Number(/^#s(\d+)$/.exec(location.hash)?.[1] ?? 1)
    if (n - 1 !== at || !steps.some((s) => s.classList.contains('here'))) show(n - 1)
  }
  body.classList.add('paged')
  // A phone that goes dark in the middle of a song is of no use: it is asked to stay on, and where it
  // does not, the player is told.
  const sleepy = document.getElementById('sleepy')
  const stay = () => {
    if (document.visibilityState !== 'visible' || !matchMedia('(pointer: coarse)').matches) return
    const asked = navigator.wakeLock
      ? navigator.wakeLock.request('screen')
      : Promise.reject(new Error('no wake lock'))
    asked.then(
      () => {
        sleepy.hidden = true
      },
      () => {
        sleepy.hidden = false
      },
    )
  }
  document.addEventListener('visibilitychange', stay)
  stay()
  document.getElementById('on').addEventListener('click', () => show(at + 1))
  document.getElementById('back').addEventListener('click', () => show(at - 1))
  songs?.addEventListener('change', () => {
    show(Number(songs.value) - 1)
    songs.blur()
  })
  swap.addEventListener('click', () => {
    const reading = body.classList.toggle('reading')
    swap.setAttribute('aria-pressed', String(reading))
    swap.textContent = reading ? 'The night' : 'Sheets'
    swap.blur()
  })
  document.getElementById('night').addEventListener('click', (e) => {
    show(e.clientX < innerWidth / 3 ? at - 1 : at + 1)
  })
  const by = {
    ArrowRight: 1,
    ArrowDown: 1,
    PageDown: 1,
    ' ': 1,
    Enter: 1,
    ArrowLeft: -1,
    ArrowUp: -1,
    PageUp: -1,
  }
  addEventListener('keydown', (e) => {
    const own = e.target instanceof Element && e.target.closest('select, button, summary')
    if (body.classList.contains('reading') || e.altKey || e.ctrlKey || e.metaKey) return
    if (own && (e.key === ' ' || e.key === 'Enter' || own.matches('select'))) return
    if (e.key === 'Home') show(0)
    else if (e.key === 'End') show(steps.length - 1)
    else if (by[e.key]) show(at + by[e.key])
    else return
    e.preventDefault()
  })
  addEventListener('hashchange', fromAddress)
  fromAddress()
})()
