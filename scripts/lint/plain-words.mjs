/**
 * Words that went from what people read, each with the one that is used instead. Looked for in texts (with a blank in
 * them) of screens, messages and descriptions; comments and code may call things as they like.
 */
export const WENT = [
  [/\bsomebody\b/i, 'someone'],
  [/\bnobody\b/i, 'no one'],
  [/\banybody\b/i, 'anyone'],
  [/\beverybody\b/i, 'everyone'],
  [/\bmend(s|ed|ing)?\b/i, 'fix'],
  [/\bsuch that\b/i, 'where'],
  [/\bworked out\b/i, 'calculated'],
  [/\bhappenings?\b/i, 'activity'],
  [/\bkinds? of records?\b/i, 'record type'],
  [/\b(take|takes|taken|took) (it |them |that )?back\b/i, 'undo'],
  [/\b(take|takes|taken|took) (it |them |that )?(away|out)\b/i, 'remove'],
  [/\b(put|puts) (it |them |that )?away\b/i, 'archive'],
  [/\b(let|lets) (it |them |that )?stand\b/i, 'accept'],
  [/\bthe firm\b/i, 'the workspace'],
  [/\bhardly meant\b|\bgoes wrong\b|\bwill go wrong\b|\bgood to know\b/i, 'warning, error, info'],
  [/\bturned forward\b|\bturn the clock\b/i, 'moved forward'],
  [/\bmeanwhile\b/i, 'what happened in between, by name'],
  [/\brefused rows?\b/i, 'rejected row'],
  [/\b(an?|by|one|per|the) mails?\b(?! server)|\bmails (are|go|come|were)\b/i, 'email'],
  [/\bhangs? on\b/i, 'depend on'],
  [/\bcounts as open\b/i, 'is an open stage'],
  [/\bstill to be chosen\b/i, 'choose …'],
  [/\bholds no\b/i, 'has no'],
  [/\bnames it\b/i, 'uses it'],
  [/\bstands twice\b/i, 'is there twice'],
]

/** What went from a text, with what stands there now; `null` where nothing of it is left. */
export function wentIn(text) {
  if (!/\S\s+\S/.test(text)) return null
  const found = WENT.find(([word]) => word.test(text))
  return found ? { word: found[0].exec(text)[0], now: found[1] } : null
}

const READ = new Set(['aria-label', 'alt', 'label', 'placeholder', 'title', 'note', 'text'])

export const plainWords = {
  meta: { type: 'problem', schema: [], messages: { went: '“{{word}}” went from our texts: {{now}}.' } },
  create(context) {
    const check = (node, text) => {
      const data = wentIn(text)
      if (data) context.report({ node, messageId: 'went', data })
    }
    const inCode = {
      Literal: (node) => typeof node.value === 'string' && check(node, node.value),
      TemplateElement: (node) => check(node, node.value.cooked ?? ''),
    }
    const inPage = {
      ...inCode,
      VText: (node) => check(node, node.value),
      VLiteral: (node) => READ.has(node.parent.key?.name) && check(node, node.value),
    }
    const visit = context.sourceCode.parserServices.defineTemplateBodyVisitor
    return visit ? visit(inPage, inCode) : inCode
  },
}
