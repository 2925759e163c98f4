const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone
const EXACT = new Intl.DateTimeFormat('en-GB', {
  dateStyle: 'medium',
  timeStyle: 'short',
  timeZone: ZONE
})
const DAY = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeZone: 'UTC' })
const RELATIVE = new Intl.RelativeTimeFormat('en-GB', { numeric: 'auto' })
const STEPS: [Intl.RelativeTimeFormatUnit, number][] = [
  ['year', 31_536_000],
  ['month', 2_592_000],
  ['day', 86_400],
  ['hour', 3_600],
  ['minute', 60]
]

/** An instant in the reader's zone, with the zone named. */
export function exact(instant: string): string {
  return `${EXACT.format(new Date(instant))} ${ZONE}`
}

export function relative(instant: string, now: Date): string {
  const seconds = Math.round((new Date(instant).getTime() - now.getTime()) / 1000)
  for (const [unit, length] of STEPS) {
    if (Math.abs(seconds) >= length) return RELATIVE.format(Math.round(seconds / length), unit)
  }
  return seconds > 30 ? 'in a moment' : 'just now'
}

/** A date without a time, as it is meant: a day. */
export function day(date: string | null | undefined): string {
  return date ? DAY.format(new Date(`${date}T00:00:00Z`)) : ''
}

/** A sentence of the service's, its days as they are written everywhere else. */
export function sentence(text: string): string {
  return text.replace(/\b\d{4}-\d\d-\d\d\b/g, (date) => day(date).replaceAll(' ', '\u00a0'))
}

export function dayAfter(date: string): string {
  return new Date(Date.parse(`${date}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10)
}

export function number(value: number): string {
  return value.toLocaleString('en-GB')
}

/** 1 person, 12 people. */
export function count(value: number, one: string, many: string): string {
  return `${number(value)} ${value === 1 ? one : many}`
}

const ATTRIBUTES: Record<string, string> = {
  'name.givenName': 'Given name',
  'name.familyName': 'Family name',
  displayName: 'Display name',
  title: 'Job',
  department: 'Unit',
  userType: 'Kind',
  employeeNumber: 'Staff number',
  manager: 'Manager',
  'emails.home': 'Private mail',
  'emails.work': 'Work mail',
  'emails.other': 'Other mail',
  'name.formatted': 'Full name',
  'phoneNumbers.mobile': 'Mobile',
  'photos.photo': 'Picture',
  timezone: 'Time zone',
  location: 'Place',
  startDate: 'First day',
  endDate: 'Last day',
  furtherUnits: 'Further units',
  awayFrom: 'Away from',
  awayUntil: 'Away until',
  userName: 'Login',
  key: 'Key',
  formerKey: 'The key of before',
  gone: 'Has gone'
}

/** An attribute as people call it; those of one's own keep their name. */
export function attribute(name: string): string {
  return ATTRIBUTES[name] ?? name
}

/** What so many seats cost. */
export function money(price: { amount: number; currency: string }, many = 1): string {
  return `${new Intl.NumberFormat('en-GB', { minimumFractionDigits: 2, maximumFractionDigits: 2 }).format(price.amount * many)} ${price.currency}`
}

export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1)
}

/** How an attribute is set by hand. */
export const BY_HAND = [
  { value: 'allowed', words: 'operators may override it' },
  { value: 'dated', words: 'operators may, up to a day' },
  { value: 'forbidden', words: 'its sources alone' }
]

/** What a file may do. */
export const MODES = [
  { value: 'add-and-update', words: 'Add people, and change those who are known' },
  { value: 'add-only', words: 'Add people; leave those who are known as they are' },
  { value: 'update-only', words: 'Change those who are known; add nobody' }
]

/** In units of a thousand, as storage is sold. */
export function bytes(count: number): string {
  const units = ['B', 'kB', 'MB', 'GB', 'TB']
  let size = count
  let unit = 0
  while (size >= 1000 && unit < units.length - 1) {
    size /= 1000
    unit++
  }
  return unit === 0 ? `${count} B` : `${size.toFixed(1)} ${units[unit]}`
}
