import { computed, ref, watch } from 'vue'
import type { MessageChannel } from '#core/messages/guards'

/** What is written of a template: its texts, one for each language; the one without a language is for everyone else. */
export interface Written {
  name: string
  folder: string
  channel: MessageChannel
  variants: { language: string; subject: string; text: string }[]
}

interface Kept extends Written {
  readonly id: number
  readonly version: number
}

export const writtenOf = ({ name, folder, channel, variants }: Written): Written => ({
  name,
  folder,
  channel,
  variants: variants.map((one) => ({ ...one })),
})
const BLANK: Written = { name: '', folder: '', channel: 'mail', variants: [{ language: '', subject: '', text: '' }] }
const asText = (of: Written): string => JSON.stringify(writtenOf(of))

/**
 * A template while somebody writes it. What others save comes in as long as nobody has written anything here; otherwise
 * it is told, and what is written stays.
 */
export function templateDraft(chosen: () => Kept | null) {
  const making = ref(false)
  const language = ref('')
  const written = ref<Written>(writtenOf(chosen() ?? BLANK))
  const saved = computed((): Written => (making.value ? null : chosen()) ?? BLANK)
  /** Somebody else has saved it since this was begun. */
  const elsewhere = ref(false)
  let taken = asText(written.value)
  let sent = ''

  function take(): void {
    written.value = writtenOf(saved.value)
    taken = asText(written.value)
    elsewhere.value = false
  }

  watch([() => chosen()?.id, making], () => {
    language.value = ''
    take()
  })
  watch(
    () => chosen()?.version,
    () => {
      const [mine, now] = [asText(written.value), asText(saved.value)]
      if (mine === taken || mine === now) take()
      // What one saved oneself, and wrote on meanwhile.
      else if (now === sent) taken = now
      else elsewhere.value = true
    },
  )

  const variant = computed(
    () => written.value.variants.find((one) => one.language === language.value) ?? written.value.variants[0]!,
  )
  return {
    making,
    language,
    written,
    variant,
    elsewhere,
    dirty: computed(() => making.value || asText(written.value) !== asText(saved.value)),
    /** What is to be saved; that it comes back is no news then. */
    send(): Written {
      sent = asText(written.value)
      return writtenOf(written.value)
    },
    /** Leaves what is written for what is saved. */
    take,
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
