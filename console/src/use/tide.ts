/** Where the two sides of a tide line begin and end, and now between them; in pixels. */
export interface Shore {
  left: number
  now: number
  right: number
}

/**
 * Where an instant stands. The past is drawn closer together the longer ago it is, so that the weeks
 * before now are seen beside years; what lies ahead is to scale.
 */
export function along(time: { from: string; now: string; until: string }, instant: string, shore: Shore): number {
  const [from, now, until, at] = [time.from, time.now, time.until, instant].map((one) => new Date(one).getTime()) as [number, number, number, number]
  return at <= now
    ? shore.now - Math.cbrt((now - at) / Math.max(1, now - from)) * (shore.now - shore.left)
    : shore.now + ((at - now) / Math.max(1, until - now)) * (shore.right - shore.now)
}
