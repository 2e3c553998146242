import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { isEmpty, type Value } from '../language/value'
import type { ObjectKind, RecordRef } from '../records/kinds'
import { isLinkable, type RecordSnapshot } from '../records/record'
import { PUBLIC_MAIL_DOMAINS } from './public-mail'

/** Which part of two values must be the same. */
export const MATCH_PARTS = ['whole', 'domain', 'digits'] as const
export type MatchPart = (typeof MATCH_PARTS)[number]
export const MATCH_PART_WORDS: { readonly [K in MatchPart]: string } = {
  whole: 'the whole',
  domain: 'the domain',
  digits: 'the digits',
}

/** What happens when several records match. */
export const SEVERAL = ['leave', 'oldest', 'all'] as const
export type Several = (typeof SEVERAL)[number]
export const SEVERAL_WORDS: { readonly [K in Several]: string } = {
  leave: 'link none',
  oldest: 'link the oldest',
  all: 'link all',
}

/** How records are linked by what they hold. */
export interface LinkBy {
  readonly to: ObjectKind
  readonly ownField: string
  readonly theirField: string
  readonly part: MatchPart
  readonly several: Several
  /** Takes the shipped public mail domains for a match like any other. */
  readonly publicToo: boolean
  /** Further values that are never a match, as they read in the record or in the part that is compared. */
  readonly leftOut: readonly string[]
}

const TEXTS: readonly string[] = ['text', 'email', 'phone', 'link']
const DOMAINS: readonly string[] = ['text', 'email', 'link']
const DIGITS: readonly string[] = ['text', 'phone']

/** The parts by which two fields can be compared; none when they hold different things. */
export function partsFor(own: Field, their: Field): readonly MatchPart[] {
  const both = (types: readonly string[]) => types.includes(own.type) && types.includes(their.type)
  return [
    ...(both(TEXTS) && (own.type === their.type || own.type === 'text' || their.type === 'text')
      ? ['whole' as const]
      : []),
    ...(both(DOMAINS) ? ['domain' as const] : []),
    ...(both(DIGITS) ? ['digits' as const] : []),
  ]
}

const DIGITS_LEAST = 6

/**
 * The part of a value that is compared; `null` when it has none. A domain is what stands behind the @ of an address
 * or is the host of a link, without "www."; digits are those of a phone number, without a leading 00.
 */
export function matchForm(value: Value, field: Field, part: MatchPart, catalogue: Catalogue): string | null {
  if (isEmpty(value) || typeof value !== 'string') return null
  switch (part) {
    case 'whole':
      return String(catalogue.compared(field, value))
    case 'domain': {
      const host =
        (value.includes('@') ? value.slice(value.lastIndexOf('@') + 1) : value.replace(/^[a-z][a-z\d+.-]*:\/\//i, ''))
          .trim()
          .toLowerCase()
          .split(/[/?#:]/, 1)[0]
          ?.replace(/^www\./, '')
          .replace(/\.$/, '') ?? ''
      return /^[^\s.]+(?:\.[^\s.]+)+$/.test(host) ? host : null
    }
    case 'digits': {
      const digits = value.replace(/\D/g, '').replace(/^00/, '')
      return digits.length >= DIGITS_LEAST ? digits : null
    }
  }
}

/** Whether a form is one that says nothing about who belongs to whom. */
export function isLeftOut(form: string, by: Pick<LinkBy, 'part' | 'publicToo' | 'leftOut'>): boolean {
  if (by.part === 'domain' && !by.publicToo && PUBLIC_MAIL_DOMAINS.has(form)) return true
  return by.leftOut.some((one) => one.trim().toLowerCase().replace(/^.*@/, '') === form)
}

export type LinkChoice =
  /** The records to be linked to; never empty. */
  | { readonly is: 'link'; readonly to: readonly RecordSnapshot[] }
  | { readonly is: 'linked' }
  | { readonly is: 'empty' }
  | { readonly is: 'leftOut'; readonly form: string }
  | { readonly is: 'none'; readonly form: string }
  | { readonly is: 'several'; readonly form: string; readonly among: readonly RecordSnapshot[] }

export interface LinkLook {
  readonly catalogue: Catalogue
  /** Records of the other kind whose field has this form, the oldest first. */
  readonly alike: (form: string) => readonly RecordSnapshot[]
  /** Ids of the records of the other kind that the record is linked to. */
  readonly linkedTo: () => readonly number[]
  /** Whether a record of the other kind points to one of this kind already; asked where links go from there to here. */
  readonly taken: (other: RecordSnapshot) => boolean
}

/**
 * What a record is to be linked to. One that points to such a record already is left as it is, and so is one on the
 * other side that points elsewhere: a link that somebody made is worth more than a match.
 */
export function chooseLink(by: LinkBy, record: RecordSnapshot, look: LinkLook): LinkChoice {
  const own = look.catalogue.field(record.object, by.ownField)
  const form = own && matchForm(record.values[by.ownField] ?? null, own, by.part, look.catalogue)
  if (!form) return { is: 'empty' }
  const forward = isLinkable(record, { object: by.to, id: 0 })
  const linked = look.linkedTo()
  if (forward && linked.length > 0) return { is: 'linked' }
  if (isLeftOut(form, by)) return { is: 'leftOut', form }
  const alike = look.alike(form)
  if (alike.length === 0) return { is: 'none', form }
  const free = forward ? alike : alike.filter((other) => !linked.includes(other.id) && !look.taken(other))
  if (free.length === 0) return { is: 'linked' }
  if (free.length === 1 || by.several === 'all') return { is: 'link', to: free }
  return by.several === 'oldest' ? { is: 'link', to: free.slice(0, 1) } : { is: 'several', form, among: free }
}

/** The two ends in the direction in which links are kept. */
export const linkEnds = (record: RecordRef, other: RecordRef): { readonly from: RecordRef; readonly to: RecordRef } =>
  isLinkable(record, other) ? { from: record, to: other } : { from: other, to: record }
