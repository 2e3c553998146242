import { dictionary } from '@zxcvbn-ts/language-common'

/** Words that people choose first, from lists of passwords that got out; read when somebody chooses one. */
let common: ReadonlySet<string> | null = null

/** Whether a password is one that many have, or such a one with some digits and signs behind it. */
export function isCommon(password: string): boolean {
  common ??= new Set(dictionary['passwords-common'].map((one) => String(one).toLowerCase()))
  const plain = password.normalize('NFKC').toLowerCase()
  const [, word = '', tail = ''] = /^(.*?)([^\p{L}]{0,5})$/su.exec(plain) ?? []
  return (
    common.has(plain) ||
    (tail !== '' && word.length >= 4 && common.has(word)) ||
    // One thing over and over: "abababababab", "aaaaaaaaaa".
    /^(.{1,4})\1+.{0,3}$/su.test(plain)
  )
}
