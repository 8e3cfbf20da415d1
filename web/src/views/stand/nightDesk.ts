import { answer, client, freshId, Problem } from '../../api/client'
import {
  type Break,
  type Held,
  isReplanning,
  type NightEvent,
  nothing,
  type Place,
  type Tonight,
} from './tonight'

/** What a page of a show speaks with. */
export interface Line {
  load: (show: string, rig: string | undefined) => Promise<Tonight>
  breaks: (show: string, rig: string | undefined, place: Place) => Promise<Break[]>
  send: (
    show: string,
    nowMs: number,
    events: NightEvent[],
  ) => Promise<{ refused: { id: string; reason: string }[] }>
  /** Hears what happens, until it is told to stop. */
  listen: (
    show: string,
    after: number,
    hears: {
      event: (e: NightEvent) => void
      plan: (state: string) => void
      up: () => void
      down: () => void
    },
  ) => () => void
  /** Milliseconds since 1970 by a clock that is not put back while the page is open. */
  clock: () => number
}

/** Where a page keeps what it holds. */
export interface Keep {
  read: () => Held | undefined
  write: (held: Held) => void
}

export interface State {
  held: Held
  online: boolean
  /** The device has not been let in. */
  shut: boolean
  /** There is no such show, or it cannot be worked out; and nothing is kept of it. */
  error?: string
  refused: string[]
}

/** How long it takes before what could not be reached is tried again, in ms. */
const againMs = 3000

/** A show on this page: what is known of it, and what happened here. It works from what it keeps when the network is gone, and
 * sends what it has when the network is back. */
export class NightDesk {
  private state: State
  private readonly hearers = new Set<() => void>()
  private stop: (() => void) | undefined
  private sending = false
  private loading = false
  private again = false
  private timer: ReturnType<typeof setTimeout> | undefined

  constructor(
    private readonly show: string,
    private readonly rig: string | undefined,
    private readonly line: Line,
    private readonly keep: Keep,
    readonly page: { id: string; name: string },
  ) {
    this.state = { held: keep.read() ?? nothing, online: false, shut: false, refused: [] }
  }

  readonly now = () => this.line.clock()
  readonly snapshot = () => this.state
  readonly subscribe = (hear: () => void) => {
    this.hearers.add(hear)
    return () => void this.hearers.delete(hear)
  }

  /** Begins to follow the show; what it gives ends that. */
  open(): () => void {
    this.connect()
    const offline = () => this.away()
    const online = () => this.connect()
    globalThis.addEventListener?.('offline', offline)
    globalThis.addEventListener?.('online', online)
    return () => {
      globalThis.removeEventListener?.('offline', offline)
      globalThis.removeEventListener?.('online', online)
      this.stop?.()
      this.stop = undefined
      clearTimeout(this.timer)
    }
  }

  /** Has something happen here, now. */
  happen(e: Omit<NightEvent, 'id' | 'at_ms' | 'page'>): string {
    const event: NightEvent = {
      ...e,
      id: freshId(),
      at_ms: Math.round(this.line.clock()),
      page: this.page.id,
      name: this.page.name,
      rig: this.rig ?? this.state.held.night?.evening.rig.id,
    }
    const held = { ...this.state.held, outbox: [...this.state.held.outbox, event] }
    if (e.kind === 'at')
      held.own = { entry: e.entry, section: e.section, since: event.at_ms, leads: Boolean(e.leads) }
    this.set({ held })
    void this.flush()
    return event.id
  }

  /** Looks for what can break from a place on. What was found before stays while there is no network. */
  async look(place: Place): Promise<void> {
    try {
      const breaks = await this.line.breaks(this.show, this.rig, place)
      this.set({ held: { ...this.state.held, breaks } })
    } catch (e) {
      this.failed(e)
    }
  }

  dismiss() {
    this.set({ refused: [] })
  }

  private set(next: Partial<State>) {
    this.state = { ...this.state, ...next }
    if (next.held) this.keep.write(next.held)
    for (const hear of this.hearers) hear()
  }

  private connect() {
    clearTimeout(this.timer)
    this.stop?.()
    if (!this.state.held.night) void this.load() // whether there is such a show is not said by the stream
    const seq = this.state.held.night?.seq ?? 0
    this.stop = this.line.listen(this.show, seq, {
      event: (e) => this.heard(e),
      plan: (at) => {
        if (at !== this.state.held.night?.plan) void this.load()
      },
      up: () => {
        this.set({ online: true, shut: false })
        void this.flush()
        void this.load()
      },
      down: () => this.away(),
    })
  }

  /** The network is gone: it is tried again. */
  private away() {
    this.stop?.()
    this.stop = undefined
    if (this.state.online) this.set({ online: false })
    clearTimeout(this.timer)
    this.timer = setTimeout(() => this.connect(), againMs)
  }

  private heard(e: NightEvent) {
    const held = this.state.held
    if (held.night?.events.some((x) => x.id === e.id)) return
    const known = held.heard.some((x) => x.id === e.id)
    // The server's word on when it was is the one that counts. Of a page that goes on, the latest place is enough.
    const heard = held.heard.filter(
      (x) => x.id !== e.id && (x.kind !== 'at' || e.kind !== 'at' || x.page !== e.page || x.at_ms > e.at_ms),
    )
    this.set({ held: { ...held, heard: [...heard, e] } })
    if (isReplanning(e) && !known) void this.load()
  }

  private async load(): Promise<void> {
    this.again = true
    if (this.loading) return
    this.loading = true
    try {
      while (this.again) {
        this.again = false
        const asked = this.line.clock()
        const night = await this.line.load(this.show, this.rig)
        const known = new Set(night.events.map((e) => e.id))
        const held = this.state.held
        this.set({
          error: undefined,
          shut: false,
          held: {
            ...held,
            night,
            at: (asked + this.line.clock()) / 2, // the server said what time it was on the way
            outbox: held.outbox.filter((e) => !known.has(e.id)),
            heard: held.heard.filter((e) => !known.has(e.id) && e.kind === 'at'),
          },
        })
      }
    } catch (e) {
      this.failed(e)
    } finally {
      this.loading = false
    }
  }

  private async flush(): Promise<void> {
    if (this.sending) return
    this.sending = true
    try {
      while (this.state.held.outbox.length > 0) {
        const events = this.state.held.outbox.slice(0, 500)
        const { refused } = await this.line.send(this.show, Math.round(this.line.clock()), events)
        const sent = new Set(events.map((e) => e.id))
        const no = new Set(refused.map((r) => r.id))
        const held = this.state.held
        // Until the server says what follows from them, they stay among what was heard.
        const away = held.night ? held.night.now_ms - held.at : 0
        const told = events.filter((e) => !no.has(e.id)).map((e) => ({ ...e, at_ms: e.at_ms + away }))
        this.set({
          refused: [...this.state.refused, ...refused.map((r) => r.reason)],
          held: {
            ...held,
            outbox: held.outbox.filter((e) => !sent.has(e.id)),
            heard: [...held.heard.filter((e) => !sent.has(e.id)), ...told],
          },
        })
        if (told.some(isReplanning)) await this.load()
      }
    } catch (e) {
      this.failed(e)
    } finally {
      this.sending = false
    }
  }

  private failed(e: unknown) {
    const status = e instanceof Problem ? e.status : 0
    if (status === 401) this.set({ shut: true })
    else if (status === 0) this.away()
    else this.set({ error: e instanceof Error ? e.message : String(e) })
  }
}

/** The server of this page. */
export const server: Line = {
  load: (show, rig) => answer(client.GET('/api/night', { params: { query: { show, rig } } })),
  breaks: async (show, rig, place) =>
    (
      await answer(
        client.GET('/api/night/breaks', {
          params: { query: { show, rig, entry: place.entry, section: place.section } },
        }),
      )
    ).breaks,
  send: (show, now_ms, events) =>
    answer(client.POST('/api/night/events', { body: { show, now_ms, events } })),
  listen: (show, after, hears) => {
    const events = new EventSource(`/api/night/events?show=${encodeURIComponent(show)}&after=${after}`)
    events.onopen = hears.up
    events.onmessage = (e) => hears.event(JSON.parse(String(e.data)))
    events.addEventListener('plan', (e) => hears.plan(String((e as MessageEvent).data)))
    events.onerror = hears.down
    return () => events.close()
  },
  clock: () => performance.timeOrigin + performance.now(),
}

/** The store of this browser. What it cannot hold is not kept; the page works as long as it is open. */
export function storeOf(show: string, rig: string | undefined): Keep {
  const key = `envex.night.${show}.${rig ?? ''}`
  return {
    read: () => {
      try {
        const held: unknown = JSON.parse(localStorage.getItem(key) ?? 'null')
        return isHeld(held) ? held : undefined
      } catch {
        return undefined
      }
    },
    write: (held) => {
      try {
        localStorage.setItem(key, JSON.stringify(held))
      } catch {
        // There is no room: what was kept before stays.
      }
    },
  }
}

const isHeld = (x: unknown): x is Held =>
  typeof x === 'object' &&
  x !== null &&
  Array.isArray((x as Held).outbox) &&
  Array.isArray((x as Held).heard) &&
  typeof (x as Held).at === 'number'
