import { expect, it } from 'vitest'
import { sayAgent } from './say-agent'

it.each([
  ['Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0', 'Firefox on Linux'],
  [
    'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Safari/537.36 Edg/131.0.0.0',
    'Edge on Windows',
  ],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.0 Mobile/15E148 Safari/604.1',
    'Safari on iPhone',
  ],
  ['a scanner of the warehouse', 'a scanner of the warehouse'],
  ['', 'Unknown browser'],
])('a browser is named by what it says of itself: %s', (agent, said) => expect(sayAgent(agent)).toBe(said))
