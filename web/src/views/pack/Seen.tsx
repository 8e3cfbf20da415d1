import { type Ref, useEffect, useRef, useState } from 'react'
import styled from 'styled-components'

// What a sheet of paper and the room around it are wide, in pixels at 96 to the inch.
const widths = { a4: 794 + 20, letter: 816 + 20 } as const

// A place as narrow as a phone shows a sheet to be read, not as it prints.
const narrow = 500

/** A file as it will print: at its own width, made smaller where the place is narrower, so that every line
 * breaks where it does on paper. */
export function Seen(p: {
  src: string
  title: string
  paper: keyof typeof widths | undefined
  frame: Ref<HTMLIFrameElement>
}) {
  const room = useRef<HTMLDivElement>(null)
  const [size, setSize] = useState({ width: 0, height: 0 })
  useEffect(() => {
    const place = room.current
    if (!place) return
    const watch = new ResizeObserver(() => setSize({ width: place.clientWidth, height: place.clientHeight }))
    watch.observe(place)
    return () => watch.disconnect()
  }, [])
  const own = p.paper && size.width > narrow ? widths[p.paper] : size.width
  const scale = size.width > 0 ? Math.min(1, size.width / own) : 1
  return (
    <Room ref={room}>
      <iframe
        key={p.src}
        ref={p.frame}
        src={p.src}
        title={p.title}
        style={{
          width: Math.max(own, size.width / scale),
          height: size.height / scale,
          transform: `scale(${scale})`,
        }}
      />
    </Room>
  )
}

const Room = styled.div`
  height: calc(100vh - 300px); min-height: 420px; overflow: hidden; border: 1px solid var(--line);
  iframe { border: 0; display: block; background: #fff; transform-origin: 0 0; }
`
