/**
 * The one way to the API: addresses, words and bodies as the API's own description types them, so that a renamed field
 * fails the build; refusals as problems.
 */
import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Problem = Schemas['Problem']

/** A refusal or a question from the server. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}

/** The server can't be reached, or takes nothing just now; what was to be sent is still to be sent. */
export class Unreachable extends Error {
  constructor(
    message = 'Elvarn does not answer.',
    readonly code = 'unreachable',
  ) {
    super(message)
  }
}

/** The server was reached and fell over this very request. */
export class Failed extends Unreachable {}

export const api = createClient<paths>({
  baseUrl: location.origin,
  fetch: (request) => globalThis.fetch(request),
})

/** Nothing is wrong with what was asked: the browser was not let in, the database is away, the disk is full. */
const LATER = [401, 503, 507]

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** What the server answers. A refusal and a server that is gone are thrown, each as what it is. */
export async function told<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch {
    throw new Unreachable()
  }
  if (answer.response.ok) return answer.data as T
  const { status } = answer.response
  if (status === 500) throw new Failed('Elvarn fell over this.', 'failed')
  const problem = answer.error as Partial<Problem> | undefined
  if (LATER.includes(status)) throw new Unreachable(problem?.detail, problem?.code)
  if (status > 500 || !problem?.detail) throw new Unreachable(`Elvarn answered ${status}.`)
  throw new Refused(problem as Problem)
}

/** How a file is sent: its bytes are the body. */
export const asBytes = (bytes: ArrayBuffer) => ({
  body: bytes as never,
  bodySerializer: (body: unknown) => body as ArrayBuffer,
  headers: { 'Content-Type': null },
})

/** A problem that was not told by the server. */
export const problemOf = (detail: string, code = 'told'): Problem => ({
  type: '',
  title: '',
  status: 0,
  code,
  detail,
})

/** What went wrong, as a problem: the server's own words, or that it is gone and what to do then. Bugs go on. */
export function problemIn(caught: unknown, then: string): Problem {
  if (caught instanceof Refused) return caught.problem
  if (caught instanceof Unreachable) {
    const text = caught.code === 'unreachable' ? `${caught.message} ${then}` : caught.message
    return problemOf(text, caught.code)
  }
  throw caught
}

/** Load what a screen shows; while the server can't be reached, what is shown stays. */
export async function whileReachable(load: () => Promise<unknown>): Promise<void> {
  try {
    await load()
  } catch (error) {
    if (!(error instanceof Unreachable)) throw error
  }
}

/** A new id, made here so that a repeated request is the same request. */
export const newId = (): string => crypto.randomUUID()

export const now = (): string => new Date().toISOString()
