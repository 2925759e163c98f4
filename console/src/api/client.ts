import type { components } from './types'

export type Schemas = components['schemas']
export type ProblemView = Schemas['ProblemView']
export interface Page<T> {
  items: T[]
  next: string | null
  total: number | null
  moreThan: number | null
}

/** An answer that says no: with all its problems, each with its remedy. */
export class Trouble extends Error {
  constructor(
    readonly status: number,
    readonly problems: ProblemView[]
  ) {
    super(problems[0]?.what ?? 'Something went wrong.')
  }
  get code(): string {
    return this.problems[0]?.code ?? ''
  }
}

const UNREACHABLE: ProblemView = {
  code: 'unreachable',
  what: 'Ebb does not answer.',
  why: 'The service is not running, or the network between is broken.',
  remedy: 'Nothing you typed is lost. It is tried again by itself; what was released goes on.',
  where: '',
  column: ''
}

/** Asked when a sign-in is over in the middle of something; resolves once there is a new one. */
let signInAgain: () => Promise<void> = () => Promise.reject(new Error('No sign-in is set up'))

export function onSignInOver(ask: () => Promise<void>): void {
  signInAgain = ask
}

function mark(): string {
  const found = document.cookie.split('; ').find((one) => one.startsWith('XSRF-TOKEN='))
  return found ? decodeURIComponent(found.slice('XSRF-TOKEN='.length)) : ''
}

export interface Ask {
  method?: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'
  body?: unknown
  file?: File
  /** ETag of what was read: refused if somebody else wrote since. */
  version?: number
  signal?: AbortSignal
}

async function send(path: string, ask: Ask): Promise<Response> {
  const headers: Record<string, string> = { Accept: 'application/json' }
  const method = ask.method ?? 'GET'
  if (method !== 'GET') headers['X-XSRF-TOKEN'] = mark()
  if (ask.version !== undefined) headers['If-Match'] = `"${ask.version}"`
  let body: BodyInit | undefined
  if (ask.file) {
    headers['Content-Type'] = 'application/octet-stream'
    body = ask.file
  } else if (ask.body !== undefined) {
    headers['Content-Type'] = 'application/json'
    body = JSON.stringify(ask.body)
  }
  try {
    return await fetch(path, { method, headers, body, signal: ask.signal })
  } catch (e) {
    if (e instanceof DOMException && e.name === 'AbortError') throw e
    throw new Trouble(0, [UNREACHABLE])
  }
}

async function answered(path: string, ask: Ask): Promise<Response> {
  let response = await send(path, ask)
  if (response.status === 401 && !path.startsWith('/api/v1/session')) {
    await signInAgain()
    response = await send(path, ask)
  }
  // The mark against forgery was new, or of another sign-in: the answer brings the right one.
  if (response.status === 403 && (ask.method ?? 'GET') !== 'GET') {
    const said = await problems(response)
    if (said[0]?.code !== 'mark-missing') throw new Trouble(403, said)
    await send('/api/v1/session', {})
    response = await send(path, ask)
  }
  if (!response.ok) throw new Trouble(response.status, await problems(response))
  return response
}

/** Sends one request. Throws a Trouble for every answer that is no success. */
export async function api<T>(path: string, ask: Ask = {}): Promise<T> {
  const response = await answered(path, ask)
  return response.status === 204 ? (undefined as T) : ((await response.json()) as T)
}

/** Sends one request, and has the browser keep the file that is answered. */
export async function download(path: string, ask: Ask, name: string): Promise<void> {
  const response = await answered(path, ask)
  const link = document.createElement('a')
  link.href = URL.createObjectURL(await response.blob())
  const said = response.headers.get('Content-Disposition')?.match(/filename\*=UTF-8''([^;]+)/)?.[1]
  link.download = said ? decodeURIComponent(said) : name
  link.click()
  URL.revokeObjectURL(link.href)
}

async function problems(response: Response): Promise<ProblemView[]> {
  try {
    const body = await response.json()
    if (Array.isArray(body.problems) && body.problems.length) return body.problems
  } catch {
    // No JSON: whatever stands between us and the service answered instead.
  }
  return [
    {
      code: `http-${response.status}`,
      what: `The answer was ${response.status}.`,
      why: 'Something between this page and Ebb answered in its place, or Ebb is starting.',
      remedy: 'Try again in a moment.',
      where: '',
      column: ''
    }
  ]
}

export function query(parameters: Record<string, string | number | boolean | null | undefined>): string {
  const all = new URLSearchParams()
  for (const [name, value] of Object.entries(parameters)) {
    if (value !== null && value !== undefined && value !== '') all.set(name, String(value))
  }
  const text = all.toString()
  return text ? `?${text}` : ''
}
