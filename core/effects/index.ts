import type { z } from 'zod'
import { created } from './created'
import type { EffectSpec } from './effect'
import { ended } from './ended'
import { fields } from './fields'
import { label } from './label'
import { letter } from './letter'
import { link } from './link'
import { message } from './message'
import { notice } from './notice'
import { request } from './request'
import { task } from './task'
import { turn } from './turn'
import { unlink } from './unlink'

/** Every kind of effect. The names are kept in the journal and never change. */
export const EFFECTS = {
  fields,
  task,
  message,
  letter,
  request,
  notice,
  created,
  label,
  link,
  unlink,
  ended,
  turn,
} as const
export type EffectName = keyof typeof EFFECTS

type Want<K extends EffectName> = (typeof EFFECTS)[K] extends EffectSpec<K, infer W, infer _L> ? W : never
/** What a step asks for. */
export type Effect = { [K in EffectName]: { readonly effect: K } & Want<K> }[EffectName]
/** What is left of an effect, as the journal keeps it. */
export type EffectLeft = { [K in EffectName]: { readonly what: K } & z.infer<(typeof EFFECTS)[K]['left']> }[EffectName]

/**
 * The one place where the pair of a kind and its content is taken on trust: it was made by the kind itself, or read by
 * its schema.
 */
export const effectOf = (kind: EffectName): EffectSpec<EffectName, object, object> =>
  EFFECTS[kind] as unknown as EffectSpec<EffectName, object, object>
