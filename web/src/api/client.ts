/** The one way to the API: paths and bodies as the API's own description types them, refusals as problems. */
import type { Ref } from 'vue'
import type { components } from './schema'

export type Schemas = components['schemas']
export type Problem = Schemas['Problem']

/** A refusal or a question from the server. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}

/** The server can't be reached; what was to be sent is still to be sent. */
export class Unreachable extends Error {}

/** Load what a screen shows; while the server can't be reached, what is shown stays. */
export async function whileReachable(load: () => Promise<unknown>): Promise<void> {
  try {
    await load()
  } catch (error) {
    if (!(error instanceof Unreachable)) throw error
  }
}

export async function request<T>(method: string, path: string, body?: unknown): Promise<T> {
  const raw = body instanceof ArrayBuffer
  let answer: Response
  try {
    answer = await fetch(path, {
      method,
      headers: body === undefined || raw ? {} : { 'content-type': 'application/json' },
      body: body === undefined ? undefined : raw ? body : JSON.stringify(body),
    })
  } catch {
    throw new Unreachable('Elvarn does not answer.')
  }
  if (answer.ok) return (await answer.json()) as T
  if (answer.status >= 500) throw new Unreachable(`Elvarn answered ${answer.status}.`)
  throw new Refused((await answer.json()) as Problem)
}

export const get = <T>(path: string) => request<T>('GET', path)
export const put = <T>(path: string, body: unknown) => request<T>('PUT', path, body)
export const patch = <T>(path: string, body: unknown) => request<T>('PATCH', path, body)
export const post = <T>(path: string, body: unknown) => request<T>('POST', path, body)

const shown = new WeakMap<object, number>()
let asked = 0

/** Put an answer where a screen shows it, unless a later question was answered there meanwhile. */
export async function fill<T>(target: Ref<T | undefined>, answer: Promise<T>): Promise<void> {
  const own = ++asked
  const found = await answer
  if (own < (shown.get(target) ?? 0)) return
  shown.set(target, own)
  target.value = found
}

/** A new id, made here so that a repeated request is the same request. */
export const newId = (): string => crypto.randomUUID()

export const now = (): string => new Date().toISOString()
