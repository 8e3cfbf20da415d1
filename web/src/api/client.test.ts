import { describe, expect, it, vi } from 'vitest'
import {
  answer,
  computedFrom,
  freshId,
  isFrom,
  isSending,
  Problem,
  questionOf,
  sendAsItIs,
  shared,
} from './client'

const response = (status: number, headers: Record<string, string> = {}) => {
  const r = new Response(null, { status, headers })
  Object.defineProperty(r, 'url', { value: 'http://127.0.0.1:8000/api/reach?rig=long' })
  return r
}

describe('an answer', () => {
  it('is its data, with what it was computed from and what was asked', async () => {
    const data = await answer(
      Promise.resolve({ data: { reached: 3 }, response: response(200, { 'Envex-Plan': '7' }) }),
    )
    expect(data).toEqual({ reached: 3 })
    expect(computedFrom(data)).toBe('7')
    expect(questionOf(data)).toBe('/api/reach?rig=long')
  })

  it('of no state of the plan is from none', async () => {
    expect(computedFrom(await answer(Promise.resolve({ data: {}, response: response(200) })))).toBeUndefined()
    expect(computedFrom('words')).toBeUndefined()
    expect(isFrom('words', '7', '/api')).toBe('words')
  })

  it('that refuses is a problem with its sentences, by field', async () => {
    const error = {
      detail: 'The plan does not have it.',
      errors: [{ location: 'query.rig', message: 'no such rig' }, {}],
      conflict: { seen: 1 },
    }
    const refused = (await answer(Promise.resolve({ error: error as never, response: response(404) })).catch(
      (e: unknown) => e,
    )) as Problem
    expect(refused).toBeInstanceOf(Problem)
    expect(refused.status).toBe(404)
    expect(refused.message).toBe('The plan does not have it.')
    expect(refused.details).toEqual([
      { where: 'query.rig', message: 'no such rig' },
      { where: '', message: '' },
    ])
    expect(refused.conflict).toEqual({ seen: 1 })
  })

  it('without data is a problem though it says that all is well', async () => {
    await expect(answer(Promise.resolve({ response: response(200) }))).rejects.toMatchObject({ status: 200 })
  })

  it('that never came says so', async () => {
    await expect(answer(Promise.reject(new TypeError('failed to fetch')))).rejects.toMatchObject({
      status: 0,
      message: 'Envex does not answer. Is it still running?',
    })
  })
})

describe('two answers', () => {
  it('share what is the same, and are from where the new one is from', () => {
    const before = isFrom({ a: { x: 1 }, b: 1 }, '7', '/api/q')
    const kept = shared(before, isFrom({ a: { x: 1 }, b: 2 }, '8', '/api/q')) as typeof before
    expect(kept.a).toBe(before.a)
    expect(kept.b).toBe(2)
    expect(computedFrom(kept)).toBe('8')
    expect(shared(before, { a: { x: 1 }, b: 1 })).toBe(before)
  })
})

describe('a new id', () => {
  it('is another one each time, and short enough', () => {
    const many = Array.from({ length: 500 }, freshId)
    expect(new Set(many).size).toBe(500)
    for (const id of many) expect(id).toMatch(/^x[0-9a-z]{5,23}$/)
  })
})

it('a file is on its way until it has been answered, or could not be sent', async () => {
  let done: (r: Response) => void = () => undefined
  const fetched = vi.spyOn(globalThis, 'fetch').mockReturnValueOnce(
    new Promise((resolve) => {
      done = resolve
    }),
  )
  const sent = sendAsItIs('/api/import', 'application/json', '{}')
  expect(isSending()).toBe(true)
  done(new Response('{"ok":true}', { status: 200 }))
  expect(await sent).toEqual({ ok: true })
  expect(isSending()).toBe(false)
  fetched.mockRejectedValueOnce(new Error('gone'))
  await expect(sendAsItIs('/api/import', 'application/json', '{}')).rejects.toBeInstanceOf(Problem)
  expect(isSending()).toBe(false)
  fetched.mockRestore()
})
