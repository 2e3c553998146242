import MarkdownIt from 'markdown-it'

/** HTML in a text stays text (`html: false`), and links lead to the web or to an address only. */
const markdown = new MarkdownIt({ html: false, linkify: true, breaks: true })
const isSafe = /^(https?:|mailto:|tel:)/i
markdown.validateLink = (url) => isSafe.test(url.trim())

/** The simple formatted text of a message as HTML; nothing that was typed into it becomes code. */
export const htmlOf = (text: string): string => markdown.render(text)

type Token = ReturnType<typeof markdown.parse>[number]

/** One run of text without its marks; a link that says something else than where it leads has that behind it. */
function lineOf(tokens: readonly Token[]): string {
  let line = ''
  const links: { readonly to: string; readonly from: number }[] = []
  for (const token of tokens)
    if (token.type === 'text' || token.type === 'code_inline') line += token.content
    else if (token.type === 'softbreak' || token.type === 'hardbreak') line += '\n'
    else if (token.type === 'image') line += token.content
    else if (token.type === 'link_open') links.push({ to: token.attrGet('href') ?? '', from: line.length })
    else if (token.type === 'link_close') {
      const link = links.pop()
      const said = link ? line.slice(link.from) : ''
      if (link && !link.to.replace(/^mailto:|\/$/g, '').endsWith(said)) line += ` (${link.to})`
    }
  return line
}

/**
 * The same text as it is read, without its marks, for lists and timelines: paragraphs a blank line apart, each item of
 * a list in a line of its own behind a dash or its number.
 */
export function plainOf(text: string): string {
  const lists: { readonly ordered: boolean; next: number }[] = []
  let mark = ''
  let plain = ''
  let within = false
  const add = (block: string): void => {
    const inList = lists.length > 0
    // What follows in the same list is one line below, anything else is a paragraph of its own.
    plain += `${plain === '' ? '' : within && inList ? '\n' : '\n\n'}${mark}${block}`
    mark = '  '.repeat(lists.length)
    within = inList
  }
  for (const token of markdown.parse(text, {})) {
    const list = lists.at(-1)
    if (token.type === 'bullet_list_open') lists.push({ ordered: false, next: 1 })
    else if (token.type === 'ordered_list_open')
      lists.push({ ordered: true, next: Number(token.attrGet('start') ?? 1) })
    else if (token.type.endsWith('list_close')) {
      lists.pop()
      mark = '  '.repeat(lists.length)
    } else if (token.type === 'list_item_open' && list)
      mark = `${'  '.repeat(lists.length - 1)}${list.ordered ? `${list.next++}.` : '–'} `
    else if (token.type === 'inline') add(lineOf(token.children ?? []))
    else if (token.type === 'fence' || token.type === 'code_block') add(token.content.trimEnd())
    else if (token.type === 'hr') add('—')
  }
  return plain
}
