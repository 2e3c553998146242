import { z } from 'zod'
import { foldText } from '../language/value'
import { MESSAGE_CHANNELS } from './guards'

/** A stored text for messages, in one language or several. */

export const SUBJECT_MOST = 200
export const TEXT_MOST = 10_000

const zVariant = z.strictObject({
  /** As contacts have it; empty for everybody who has no variant of their own. */
  language: z.string().trim().max(60),
  subject: z.string().max(SUBJECT_MOST),
  text: z.string().max(TEXT_MOST),
})
export type TemplateVariant = z.infer<typeof zVariant>

export const zGivenTemplate = z
  .strictObject({
    name: z.string().trim().min(1).max(100),
    folder: z.string().trim().max(60).default(''),
    channel: z.enum(MESSAGE_CHANNELS),
    variants: z.array(zVariant).min(1).max(20),
  })
  .refine(({ variants }) => variants[0]?.language === '', {
    path: ['variants', 0, 'language'],
    message: 'The first text is for everyone who has none of their own.',
  })
  .refine(({ variants }) => new Set(variants.map((one) => foldText(one.language))).size === variants.length, {
    path: ['variants'],
    message: 'There are two texts for one language.',
  })
export type GivenTemplate = z.infer<typeof zGivenTemplate>

export interface Template extends GivenTemplate {
  readonly id: number
  /** Counts up with every change of its texts. */
  readonly version: number
  readonly archived: boolean
}

/** The text for somebody with a language, by its name or its id; that for everyone where there is none. */
export function variantFor(
  { variants }: Pick<Template, 'variants'>,
  ...languages: readonly (string | null)[]
): TemplateVariant {
  const wanted = languages.flatMap((one) => (one === null || one === '' ? [] : [foldText(one)]))
  const own = variants.find(({ language }) => language !== '' && wanted.includes(foldText(language)))
  return own ?? variants[0] ?? { language: '', subject: '', text: '' }
}

/** Whether somebody with that language gets a text in it. */
export const hasVariant = ({ variants }: Pick<Template, 'variants'>, language: string): boolean =>
  variants.some((one) => foldText(one.language) === foldText(language))
