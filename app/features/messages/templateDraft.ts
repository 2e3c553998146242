import { computed, ref, watch } from 'vue'
import type { MessageChannel } from '#core/messages/guards'
import { draftOf } from '~/shared/draft/draftOf'

/** What is written of a template: its texts, one for each language; the one without a language is for everyone else. */
export interface Written {
  name: string
  folder: string
  channel: MessageChannel
  variants: { language: string; subject: string; text: string }[]
}

export const writtenOf = ({ name, folder, channel, variants }: Written): Written => ({
  name,
  folder,
  channel,
  variants: variants.map((one) => ({ ...one })),
})
const BLANK: Written = { name: '', folder: '', channel: 'mail', variants: [{ language: '', subject: '', text: '' }] }

/** A template while somebody writes it: one that is there, or a new one. */
export function templateDraft(chosen: () => (Written & { readonly id: number }) | null) {
  const making = ref(false)
  const language = ref('')
  const { written, elsewhere, dirty, take, save } = draftOf(
    () => writtenOf((making.value ? null : chosen()) ?? BLANK),
    () => [chosen()?.id, making.value],
  )
  watch([() => chosen()?.id, making], () => (language.value = ''))
  const variant = computed(
    () => written.value.variants.find((one) => one.language === language.value) ?? written.value.variants[0]!,
  )
  return {
    making,
    language,
    written,
    variant,
    elsewhere,
    dirty,
    take,
    save,
    /** Another language begins with the words of the first one. */
    addLanguage(name: string): void {
      if (name === '') return
      const { subject, text } = written.value.variants[0]!
      written.value.variants.push({ language: name, subject, text })
      language.value = name
    },
    removeLanguage(): void {
      written.value.variants = written.value.variants.filter((one) => one.language !== language.value)
      language.value = ''
    },
  }
}
