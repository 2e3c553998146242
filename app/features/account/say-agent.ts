const BROWSERS = [
  ['Edge', /\bEdg\//],
  ['Opera', /\bOPR\//],
  ['Firefox', /\bFirefox\//],
  ['Chrome', /\b(?:Headless)?Chrome\//],
  ['Safari', /\bSafari\//],
] as const
const SYSTEMS = [
  ['iPhone', /\biPhone\b/],
  ['iPad', /\biPad\b/],
  ['Android', /\bAndroid\b/],
  ['Windows', /\bWindows\b/],
  ['macOS', /\bMac OS X\b/],
  ['Linux', /\bLinux\b/],
] as const

/** "Firefox on Linux", of what a browser says of itself (`User-Agent`); its own words where it says nothing known. */
export function sayAgent(agent: string): string {
  const [browser, system] = [BROWSERS, SYSTEMS].map((some) => some.find(([, sign]) => sign.test(agent))?.[0])
  if (browser === undefined) return agent.slice(0, 40) || 'Unknown browser'
  return system === undefined ? browser : `${browser} on ${system}`
}
