import { foldText } from '../language/value'

/** What kind of answer something is, by phrases that people can read and change. */

/** In the order in which they are tried; what fits none is another. */
export const ANSWER_KINDS = ['negative', 'question', 'positive'] as const
export type AnswerKind = (typeof ANSWER_KINDS)[number] | 'other'

export const ANSWER_KIND_CHOICES = [
  { id: 'positive', label: 'positive' },
  { id: 'negative', label: 'negative' },
  { id: 'question', label: 'question' },
  { id: 'other', label: 'other' },
] as const satisfies readonly { readonly id: AnswerKind; readonly label: string }[]

export type AnswerPhrases = { readonly [K in (typeof ANSWER_KINDS)[number]]: readonly string[] }

export const USUAL_PHRASES: { [K in (typeof ANSWER_KINDS)[number]]: string[] } = {
  negative: [
    'no thank you',
    'no thanks',
    'not interested',
    'no interest',
    'please stop',
    'do not write',
    'found another',
    'too expensive',
    'cancel',
    'não obrigado',
    'sem interesse',
    'nie dziękuję',
    'non merci',
  ],
  question: ['?', 'could you tell', 'i wonder', 'how much', 'when can', 'is it possible'],
  positive: [
    'yes please',
    'yes',
    'sounds good',
    'happy to',
    'looks good',
    'go ahead',
    'please send',
    'please call',
    'agreed',
    'perfect',
    'thank you',
    'sim',
    'obrigado',
    'tak',
    'oui',
  ],
}

const isLetter = (text: string | undefined): boolean => text !== undefined && /[\p{L}\p{N}]/u.test(text)

/** Whether a phrase stands in a text as whole words; both folded. */
function standsIn(text: string, phrase: string): boolean {
  for (let at = text.indexOf(phrase); at >= 0; at = text.indexOf(phrase, at + 1)) {
    const [before, behind] = [text[at - 1], text[at + phrase.length]]
    const opens = isLetter(phrase[0]) && isLetter(before)
    const closes = isLetter(phrase.at(-1)) && isLetter(behind)
    if (!opens && !closes) return true
  }
  return false
}

/** What kind of answer a text is, and the phrase that decided it; none did where it is another. */
export function answerKind(
  text: string,
  phrases: AnswerPhrases,
): { readonly kind: AnswerKind; readonly phrase: string | null } {
  const folded = foldText(text)
  for (const kind of ANSWER_KINDS)
    for (const phrase of phrases[kind]) if (standsIn(folded, foldText(phrase))) return { kind, phrase }
  return { kind: 'other', phrase: null }
}

/**
 * What somebody wrote themselves in a mail: without what they quote, and without what stands below the line that leads
 * to it. Where nothing is left of it, all of it.
 */
export function ownWords(text: string): string {
  const lines = text.replaceAll('\r\n', '\n').split('\n')
  const kept: string[] = []
  for (const line of lines) {
    if (/^\s*>/.test(line)) continue
    // "On 24 Nov 2026, Rosa Amara wrote:" in several languages, and what mail programs put between.
    if (
      /^\s*(-{2,}\s*$|-{3,}.*-{3,}\s*$|_{5,}\s*$|(on|le|em|w dniu)\b.*(wrote|écrit|escreveu|napisa).*:\s*$)/iu.test(
        line,
      )
    )
      break
    if (/^(from|de|od):\s.+@/iu.test(line)) break
    kept.push(line)
  }
  const own = kept.join('\n').trim()
  return own === '' ? text.trim() : own
}

/** Whether a text message asks for no more: one of these words alone (as phone networks have it). */
export const asksToStop = (text: string): boolean =>
  /^\s*(stop|stopall|unsubscribe|cancel|end|quit|parar|sair|arret|arrêt|koniec)[\s.!]*$/iu.test(text)
