import { EMPTY_GROUP } from '../../conditions/document'
import { sayValue } from '../../fields/say-value'
import { figure, listOf, plural } from '../../language/counts'
import { foldText, isEmpty, type Value } from '../../language/value'
import { hasVariant } from '../../messages/template'
import { STEPS } from '../steps'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'
import { allOf } from './possible'

const LANGUAGES = new Intl.DisplayNames('en', { type: 'language' })

/** So many contacts are looked at. */
const LOOKED_AT = 2000

/** Templates in several languages that lack one which contacts have: they get the text for everyone. */
export const otherLanguage = definePreflight({
  kind: 'otherLanguage',
  look(rule, { catalogue, data }) {
    const field = catalogue.field('contact', 'language')
    if (!field) return []
    // The text for everyone is taken to be in the workspace’s own language.
    const [code = 'en'] = catalogue.workspace.locale.split('-')
    const own = foldText(LANGUAGES.of(code) ?? '')
    return placedSteps(rule.document).flatMap(({ step, object }) => {
      const template = STEPS[step.kind].writes(step.params, catalogue)?.template
      // Who wrote one text only has meant it for everyone.
      if (!template || template.variants.length < 2) return []
      const group =
        object === 'contact' && object === rule.document.object ? rule.document.conditions : allOf(EMPTY_GROUP)
      const counts = new Map<string, number>()
      for (const { values } of data.sample('contact', group, LOOKED_AT)) {
        const value = (values.language ?? null) as Value
        if (isEmpty(value) || hasVariant(template, String(value))) continue
        const said = sayValue(value, field, catalogue)
        if (foldText(said) !== own && !hasVariant(template, said)) counts.set(said, (counts.get(said) ?? 0) + 1)
      }
      const missing = [...counts].sort(([, a], [, b]) => b - a)
      if (missing.length === 0) return []
      const people = missing.reduce((sum, [, n]) => sum + n, 0)
      return [
        noted('otherLanguage', rule, {
          severity: 'info',
          part: 'step',
          id: step.id,
          param: 'template',
          about: String(template.id),
          text: `Template “${template.name}” has no text in ${listOf(missing.map(([language]) => language))}`,
          why: `${figure(people)} ${plural(people, 'contact has', 'contacts have')} ${plural(missing.length, 'this language', 'these languages')} and would get the text for everyone.`,
        }),
      ]
    })
  },
})
