/**
 * The pages of the demo firm's website. They load the script from its public address: a visit proves the whole way.
 */

interface Page {
  readonly title: string
  readonly body: string
}

const PRICES: readonly (readonly [path: string, name: string, price: string, text: string])[] = [
  ['walk-in-rooms', 'Walk-in cold rooms', '€ 340 a month', 'From 6 to 60 m³, at 0 to 8 °C, put up in a day.'],
  ['freezer-trailers', 'Freezer trailers', '€ 95 a day', 'At −20 °C wherever there is a plug.'],
  ['vaccine-fridges', 'Vaccine fridges', '€ 4,900', 'With an alarm on your telephone, day and night.'],
]

const form = (name: string, fields: string, button: string): string =>
  `<form action="/website/thank-you" method="get" data-report="${name}">${fields}<p><button>${button}</button></p></form>`
const field = (label: string, name: string, more: string): string =>
  `<p><label>${label}<br><input name="${name}" ${more}></label></p>`
const EMAIL = field('Your email', 'email', 'type="email" required autocomplete="off"')

const PAGES: { readonly [path: string]: Page } = {
  '': {
    title: 'Cold rooms to rent and to own',
    body: `<p class="lead">We keep things cold: bread dough, flowers, beer, vaccines. For a weekend or for good.</p>
<p><a href="/website/prices/hire">See prices</a></p>`,
  },
  'prices/hire': {
    title: 'Prices',
    body: `<ul>${PRICES.map(([path, name, price]) => `<li><a href="/website/prices/${path}">${name}</a> from ${price}</li>`).join('')}</ul>`,
  },
  ...Object.fromEntries(
    PRICES.map(([path, name, price, text]): [string, Page] => [
      `prices/${path}`,
      {
        title: name,
        body: `<p class="lead">${text}</p><p>From <b>${price}</b>.</p><p><a href="/website/quote">Ask for a quote</a></p>`,
      },
    ]),
  ),
  about: {
    title: 'About us',
    body: '<p class="lead">Forty people in Lisbon and Porto, and a yard full of compressors.</p>',
  },
  quote: {
    title: 'Ask for a quote',
    body: form(
      'Ask for a quote',
      `${EMAIL}${field('How much room do you need?', 'Room', 'placeholder="12 m³"')}<p><label>What for?<br><textarea name="Use" rows="3"></textarea></label></p>`,
      'Send',
    ),
  },
  'call-me': {
    title: 'Call me back',
    body: form('Call me back', `${EMAIL}${field('When is a good time?', 'Time', '')}`, 'Send'),
  },
  'thank-you': { title: 'Thank you', body: '<p class="lead">We have it, and will be in touch.</p>' },
}

const STYLE = `:root{color-scheme:light}body{margin:0;font:17px/1.5 Georgia,serif;color:#20302c;background:#f4f8f6}
header{background:#12433a;color:#eef6f2;padding:14px 24px}header a{color:inherit;margin-right:18px}header b{margin-right:24px}
main{max-width:620px;padding:20px 24px}h1{font-size:30px;line-height:1.15;margin:0 0 10px}.lead{font-size:19px}
a{color:#12433a}input,textarea{font:inherit;padding:5px 8px;width:100%;max-width:340px;border:1px solid #8aa59c;background:#fff}
button{font:inherit;padding:6px 18px;background:#12433a;color:#fff;border:0}:focus-visible{outline:2px solid #d07a1f;outline-offset:2px}`

/** A page as HTML; `null` where there is none. */
export function websitePage(path: string): string | null {
  const page = PAGES[path]
  return (
    (page &&
      `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>${page.title} · Larkmoor</title><style>${STYLE}</style><script src="/site.js" defer></script></head>
<body><header><nav><b>Larkmoor</b><a href="/website">Home</a><a href="/website/prices/hire">Prices</a><a href="/website/about">About us</a><a href="/website/quote">Quote</a><a href="/website/call-me">Call me back</a><a href="/book">Book a visit</a></nav></header>
<main><h1>${page.title}</h1>${page.body}</main></body></html>`) ??
    null
  )
}

/** Every page that one goes to by oneself. */
export const WEBSITE_PATHS = Object.keys(PAGES).filter((path) => path !== 'thank-you')

/** What a page may load: its own style and the script of the product. */
export const WEBSITE_POLICY =
  "default-src 'none'; style-src 'unsafe-inline'; script-src 'self'; connect-src 'self'; form-action 'self'; frame-ancestors 'self'; base-uri 'none'"
