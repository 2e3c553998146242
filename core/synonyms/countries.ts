import { foldText } from '../language/value'

/** ISO 3166-1 alpha-2. */
const CODES =
  'AD AE AF AG AI AL AM AO AQ AR AS AT AU AW AX AZ BA BB BD BE BF BG BH BI BJ BL BM BN BO BQ BR BS BT BV BW BY BZ CA CC CD CF CG CH CI CK CL CM CN CO CR CU CV CW CX CY CZ DE DJ DK DM DO DZ EC EE EG EH ER ES ET FI FJ FK FM FO FR GA GB GD GE GF GG GH GI GL GM GN GP GQ GR GS GT GU GW GY HK HM HN HR HT HU ID IE IL IM IN IO IQ IR IS IT JE JM JO JP KE KG KH KI KM KN KP KR KW KY KZ LA LB LC LI LK LR LS LT LU LV LY MA MC MD ME MF MG MH MK ML MM MN MO MP MQ MR MS MT MU MV MW MX MY MZ NA NC NE NF NG NI NL NO NP NR NU NZ OM PA PE PF PG PH PK PL PM PN PR PS PT PW PY QA RE RO RS RU RW SA SB SC SD SE SG SH SI SJ SK SL SM SN SO SR SS ST SV SX SY SZ TC TD TF TG TH TJ TK TL TM TN TO TR TT TV TW TZ UA UG UM US UY UZ VA VC VE VG VI VN VU WF WS YE YT ZA ZM ZW'.split(
    ' ',
  )

/** What people write beside the names that the languages have. */
const ALSO: Readonly<Record<string, readonly string[]>> = {
  GB: [
    'UK',
    'U.K.',
    'Great Britain',
    'Britain',
    'GBR',
    'United Kingdom of Great Britain and Northern Ireland',
    'England',
    'Scotland',
    'Wales',
    'Northern Ireland',
  ],
  US: ['USA', 'U.S.', 'U.S.A.', 'America', 'United States of America'],
  IE: ['Republic of Ireland', 'Eire', 'IRL', 'ROI'],
  NL: ['Holland', 'The Netherlands', 'NLD'],
  DE: ['Federal Republic of Germany', 'BRD', 'GER', 'DEU'],
  FR: ['FRA'],
  ES: ['ESP'],
  PT: ['PRT'],
  PL: ['POL'],
  IT: ['ITA'],
  CA: ['CAN'],
  NZ: ['NZL', 'N.Z.'],
  AU: ['AUS'],
  CH: ['CHE', 'Swiss Confederation'],
  AE: ['UAE', 'U.A.E.', 'Emirates'],
  CZ: ['Czech Republic'],
  KR: ['Korea', 'Republic of Korea'],
  RU: ['Russian Federation'],
  CN: ['PRC', 'People’s Republic of China'],
  TR: ['Turkey'],
  CI: ['Ivory Coast'],
  CV: ['Cape Verde'],
  MM: ['Burma'],
  SZ: ['Swaziland'],
  MK: ['Macedonia'],
  VA: ['Vatican'],
  ZA: ['RSA'],
}

/** The languages whose names of countries are known, besides English. */
const LANGUAGES = ['de', 'fr', 'es', 'pt', 'it', 'nl', 'pl']

/**
 * Countries by their names in eight languages (as Unicode CLDR has them, from the runtime's own tables), their ISO
 * 3166-1 codes and what people write besides. A spelling that two countries share stands with the first.
 */
export function countrySpellings(): readonly (readonly string[])[] {
  const names = ['en', ...LANGUAGES].map((language) => new Intl.DisplayNames([language], { type: 'region' }))
  const taken = new Set<string>()
  const fresh = (spelling: string): boolean => {
    const folded = foldText(spelling)
    if (taken.has(folded)) return false
    taken.add(folded)
    return true
  }
  // Names come before codes and abbreviations: “CO” must not take what is somebody's name.
  const groups = CODES.map((code) => names.map((language) => language.of(code) ?? code).filter(fresh))
  return CODES.map((code, i) => [...(groups[i] ?? []), ...[...(ALSO[code] ?? []), code].filter(fresh)]).filter(
    (group) => group.length > 0,
  )
}
