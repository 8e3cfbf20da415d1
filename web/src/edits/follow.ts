const name = 'envex.plan'

/** Hears every state that the plan comes to. The pages of one browser share one stream, since a browser
 * keeps few connections to a server: one page holds it and tells the others. */
export function follow(hear: (at: string) => void): () => void {
  const channel = new BroadcastChannel(name)
  channel.onmessage = (e) => hear(String(e.data))
  const over = new AbortController()
  const listen = () =>
    stream((at) => {
      channel.postMessage(at)
      hear(at)
    }, over.signal)
  if (navigator.locks)
    navigator.locks.request(name, { signal: over.signal }, listen).catch(() => undefined) // the page was left first
  else void listen() // only pages that came over TLS or from this machine can share
  return () => {
    over.abort()
    channel.close()
  }
}

/** Listens until it is over; the browser comes back by itself when the server was away. */
function stream(hear: (at: string) => void, over: AbortSignal): Promise<void> {
  return new Promise((done) => {
    const events = new EventSource('/api/events')
    events.onmessage = (e) => hear(String(e.data))
    over.addEventListener('abort', () => {
      events.close()
      done()
    })
  })
}
