// Gives the page of the stand, and what it is made of, from what was kept, where the network is gone. It touches nothing else.
const name = 'envex-stand'

addEventListener('install', () => skipWaiting())
addEventListener('activate', (e) => e.waitUntil(clients.claim()))
addEventListener('fetch', (e) => {
  const { origin, pathname } = new URL(e.request.url)
  if (e.request.method !== 'GET' || origin !== location.origin) return
  if (e.request.mode === 'navigate' && pathname.startsWith('/stand'))
    e.respondWith(fetch(e.request).catch(() => kept('/stand')))
  else if (pathname.startsWith('/assets/')) e.respondWith(keptFirst(e.request))
})

const kept = async (path) => (await (await caches.open(name)).match(path)) ?? Response.error()
const keptFirst = async (request) =>
  (await (await caches.open(name)).match(new URL(request.url).pathname)) ?? fetch(request)
