import { describe, expect, it } from 'vitest'
import { html } from './html'

describe('a page', () => {
  it('writes what is put in as text, and pieces of pages as they are', () => {
    const name = `<b onclick="x('1')">&</b>`
    expect(html`<p title="${name}">${[html`<i>${name}</i>`, html`${1}`]}${null}${false}</p>`.text).toBe(
      '<p title="&lt;b onclick=&quot;x(&#39;1&#39;)&quot;&gt;&amp;&lt;/b&gt;"><i>&lt;b onclick=&quot;x(&#39;1&#39;)&quot;&gt;&amp;&lt;/b&gt;</i>1</p>',
    )
  })
})
