/** The compiler's own number for a node of text. */
const TEXT = 2

/**
 * A transform of templates: blanks and line ends inside a text come to one blank, as the browser shows them anyway.
 * Between two elements the compiler is told to keep them, since there they are a blank too.
 */
export function condenseText(node) {
  if (node.type === TEXT) node.content = node.content.replace(/\s+/g, ' ')
}
