// Writes the demo data: Saltlantern, a game that does not exist, in two releases, and the server Old
// Harbour, which runs customised files of the first. The same seed gives the same bytes.
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const target = process.argv[2] ?? join(dirname(fileURLToPath(import.meta.url)), 'data')

/** A small generator of numbers that are the same on every machine (mulberry32). */
function numbers(seed) {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}
const next = numbers(4102)
const between = (low, high) => low + Math.floor(next() * (high - low + 1))
const oneOf = (list) => list[between(0, list.length - 1)]

// Finds

const MATERIALS = {
  brass: ['brass', 'bronze', 'copper'],
  iron: ['iron', 'rusted', 'leaden'],
  wood: ['oaken', 'carved', 'tarred'],
  cloth: ['canvas', 'silken', 'oiled'],
  bone: ['bone', 'ivory'],
  clay: ['clay', 'glazed', 'cracked'],
}
const THINGS = [
  'lamp',
  'bell',
  'box',
  'chest',
  'cup',
  'dial',
  'figure',
  'hook',
  'horn',
  'key',
  'mask',
  'ring',
  'seal',
  'sextant',
  'whistle',
]
const GLASS = [
  'glass-float',
  'lamp-chimney',
  'ship-in-bottle',
  'hourglass',
  'spyglass',
  'inkwell',
  'decanter',
]
const BOTTOMS = ['sand', 'silt', 'rock', 'kelp', 'coral', 'clay', 'gravel']
const PERMITS = ['salvor', 'antiquary', 'chandler', 'harbour-master', 'collector']
const NOTES = [
  'Heavier than it looks.',
  'Often found in pairs.',
  'Polish before selling.',
  'Leave it dry for a day.',
  'The harbour pays more for a set.',
  'Handle with gloves & care.',
  'Not worth the air below 40.',
  'Ask the chandler first.',
]

function find(id, kind) {
  const shallow = between(2, 60)
  const least = between(1, 3)
  return {
    id,
    kind,
    from: shallow,
    to: shallow + between(5, 60),
    bottom: oneOf(BOTTOMS),
    least,
    most: least + between(1, 3),
    weight: (between(2, 400) / 10).toFixed(1),
    worth: between(4, 80) * 5,
    hours: oneOf([12, 24, 36, 48, 72, 96]),
    permits: PERMITS.filter(() => next() < 0.3).slice(0, 3),
    note: oneOf(NOTES),
    fragile: undefined,
    above: undefined,
  }
}

function allFinds() {
  const finds = []
  for (const thing of THINGS) {
    for (const [kind, words] of Object.entries(MATERIALS)) {
      for (const word of words) finds.push(find(`${word}-${thing}`, kind))
    }
  }
  const glass = GLASS.flatMap((name) =>
    ['', 'green-', 'amber-', 'clear-', 'small-'].map((tint) => tint + name),
  )
  glass.forEach((id, i) => finds.splice((i + 1) * 6, 0, find(id, 'glass')))
  for (const id of [
    'diving-bell',
    'ship-bell',
    'bell-rope',
    'anchor',
    'cork-vest',
    'tallow',
    'oakum',
    'sextant',
  ]) {
    finds.splice(between(0, finds.length), 0, find(id, 'ship'))
  }
  for (const each of finds.filter((one) => one.kind === 'glass').slice(0, 9)) each.fragile = 'none'
  return finds
}

function findText(each, step = '  ') {
  const lines = []
  const add = (depth, text) => lines.push(step.repeat(depth) + text)
  if (each.above !== undefined) for (const text of [each.above].flat()) add(1, `<!-- ${text} -->`)
  add(1, `<find id="${each.id}" class="${each.kind}">`)
  add(2, '<bed>')
  add(3, `<depth from="${each.from}" to="${each.to}"/>`)
  add(3, `<bottom>${each.bottom}</bottom>`)
  add(2, '</bed>')
  add(2, `<yield least="${each.least}" most="${each.most}"/>`)
  add(2, `<weight>${each.weight}</weight>`)
  add(2, `<worth>${each.worth}</worth>`)
  if (each.fragile !== undefined) add(2, `<fragile>${each.fragile}</fragile>`)
  add(2, `<decay hours="${each.hours}"/>`)
  for (const permit of each.permits) add(2, `<permit>${permit}</permit>`)
  add(2, `<note>${each.note.replace(/&/g, '&amp;')}</note>`)
  add(1, '</find>')
  return lines
}

function findsFile(finds, head, commentedOut = []) {
  const lines = [
    '<?xml version="1.0" encoding="utf-8"?>',
    ...head.map((text) => `<!-- ${text} -->`),
    '<finds>',
  ]
  for (const each of finds) {
    if (commentedOut.includes(each.id)) lines.push('  <!--', ...findText(each), '  -->')
    else lines.push(...findText(each))
  }
  return [...lines, '</finds>', ''].join('\n')
}

const named = (finds, id) => finds.find((each) => each.id === id)
const copy = (value) => structuredClone(value)

const finds41 = allFinds()
Object.assign(named(finds41, 'diving-bell'), { least: 1, most: 2, worth: 110, hours: 36 })
Object.assign(named(finds41, 'ship-bell'), { least: 1, most: 2 })
Object.assign(named(finds41, 'brass-bell'), { least: 1, most: 2 })
Object.assign(named(finds41, 'brass-lamp'), {
  worth: 110,
  hours: 36,
  above: 'Lit or unlit, it is the same lamp.',
})
named(finds41, 'anchor').above = 'Times are hours.'

const finds42 = copy(finds41)
for (const each of finds42) if (each.kind === 'glass') each.fragile = '35 percent'
for (const id of ['glass-float', 'ship-in-bottle', 'hourglass'])
  named(finds42, id).fragile = '60 percent'
const tenth = finds42.filter((each) => each.kind === 'bone').slice(0, 22)
for (const each of tenth) each.worth = Math.round(each.worth * 1.1)
for (const id of ['diving-bell', 'ship-bell', 'brass-bell']) named(finds42, id).most = 3
named(finds42, 'brass-lamp').hours = 48
named(finds42, 'brass-lamp').above = 'Lit or unlit, it is the same lamp; wet, it is worth half.'
named(finds42, 'anchor').above = 'Times are dives now.'
named(finds42, 'iron-key').worth += 40
named(finds42, 'rusted-hook').worth += 5
named(finds42, 'oaken-chest').worth += 60
for (const id of ['cork-vest', 'tallow', 'oakum'])
  finds42.splice(finds42.indexOf(named(finds42, id)), 1)
const NEWCOMERS = [
  ['storm-glass', 'sextant'],
  ['tide-table', 'brass-dial'],
  ['signal-lantern', 'brass-lamp'],
  ['log-line', 'bell-rope'],
  ['deck-prism', 'glass-float'],
  ['sounding-lead', 'leaden-hook'],
  ['pump-handle', 'iron-key'],
  ['figurehead', 'carved-figure'],
  ['rum-cask', 'oaken-cup'],
  ['sea-chest', 'oaken-chest'],
  ['fog-horn', 'copper-horn'],
  ['chart-case', 'canvas-box'],
  ['bosun-pipe', 'bronze-whistle'],
  ['capstan-bar', 'anchor'],
]
for (const [id, after] of NEWCOMERS) {
  const added = find(id, id === 'storm-glass' || id === 'deck-prism' ? 'glass' : 'ship')
  if (added.kind === 'glass') added.fragile = '35 percent'
  if (id === 'storm-glass') Object.assign(added, { worth: 260, above: 'Clouds before a storm.' })
  finds42.splice(finds42.indexOf(named(finds42, after)) + 1, 0, added)
}

const findsHarbour = copy(finds41)
const retuned = findsHarbour.filter(
  (each) =>
    each.kind === 'iron' ||
    each.id === 'diving-bell' ||
    each.id === 'ship-bell' ||
    each.id === 'brass-bell',
)
for (const each of retuned) each.most *= 4
for (const id of ['diving-bell', 'ship-bell', 'brass-bell'])
  if (named(findsHarbour, id).most < 8) named(findsHarbour, id).most *= 4
named(findsHarbour, 'anchor').most = 9
for (const each of findsHarbour.filter((one) => one.kind === 'clay').slice(20, 36)) each.worth *= 2
named(findsHarbour, 'iron-key').worth = 300
named(findsHarbour, 'cork-vest').worth = 75
named(findsHarbour, 'oaken-chest').note = 'Old Harbour: one a week, please.'
named(findsHarbour, 'brass-lamp').above = [
  'Lit or unlit, it is the same lamp.',
  'Old Harbour: the light on the pier.',
]
const OWN = [
  'harbour-token',
  'pier-lamp',
  'ferry-ticket',
  'keg-of-pitch',
  'storm-glass',
  'lucky-coin',
]
OWN.forEach((id, i) => {
  const own = find(id, 'ship')
  own.note = 'Only at Old Harbour.'
  if (id === 'storm-glass') {
    Object.assign(own, copy(named(finds42, 'storm-glass')), {
      worth: 180,
      above: 'Old Harbour had it first.',
    })
  } else own.above = 'Old Harbour'
  const after = ['brass-lamp', 'sextant', 'anchor', 'oaken-chest', 'sextant', 'iron-ring'][i]
  findsHarbour.splice(findsHarbour.indexOf(named(findsHarbour, after)) + 1, 0, own)
})

// Wrecks

const WRECKS = [
  'Morning Gannet',
  'Patience of Ulla',
  'Third Lantern',
  'Kettle and Crown',
  'Grey Widow',
  'Little Tern',
  'Merchant of Sool',
  'Anna Barnacle',
  'Drowned Curate',
  'Copper Queen',
  'North Light',
  'Unpaid Debt',
]
const wrecks41 = WRECKS.map((name, i) => ({
  name,
  depth: 10 + i * 4,
  decks: ['upper', 'gun', 'lower'].slice(0, between(1, 3)).map((deck) => ({
    deck,
    holds: [...new Set(Array.from({ length: between(2, 5) }, () => oneOf(finds41).id))].map(
      (id) => ({ id, count: between(1, 6) }),
    ),
  })),
}))

function wrecksFile(wrecks, head) {
  const lines = ['<?xml version="1.0" encoding="utf-8"?>', `<!-- ${head} -->`, '<wrecks>']
  for (const wreck of wrecks) {
    lines.push(
      '',
      '  <wreck>',
      `    <name>${wreck.name}</name>`,
      `    <depth>${wreck.depth}</depth>`,
    )
    for (const { deck, holds } of wreck.decks) {
      lines.push('    <deck>', `      <name>${deck}</name>`)
      for (const { id, count } of holds) lines.push(`      <hold find="${id}" count="${count}"/>`)
      lines.push('    </deck>')
    }
    lines.push('  </wreck>')
  }
  return [...lines, '</wrecks>', ''].join('\n')
}

// a wreck with enough in it to be known again under another name
wrecks41[4].decks.push({
  deck: 'lower',
  holds: ['iron-bell', 'copper-sextant', 'tarred-rope', 'silver-spoon'].map((id, i) => ({
    id,
    count: i + 2,
  })),
})

const wrecks42 = copy(wrecks41)
wrecks42[4].name = 'Grey Widow of Ardle'
wrecks42[1].depth = 22
wrecks42[7].decks[0].holds.push({ id: 'sea-chest', count: 1 })
wrecks42.splice(9, 0, {
  name: 'Paper Boat',
  depth: 3,
  decks: [{ deck: 'upper', holds: [{ id: 'rum-cask', count: 2 }] }],
})
const wrecksHarbour = copy(wrecks41)
wrecksHarbour[0].decks[0].holds[0].count = 12
wrecksHarbour[4].decks[0].holds[0].count = 9
wrecksHarbour.push({
  name: 'Ferry No. 2',
  depth: 6,
  decks: [{ deck: 'upper', holds: [{ id: 'ferry-ticket', count: 20 }] }],
})

// Crew

const ROLES = {
  stoker: ['shovel', 'lamp oil'],
  diver: ['helmet', 'air hose', 'knife'],
  bosun: ['whistle', 'rope'],
  cook: ['ladle', 'salt'],
  surgeon: ['needle', 'spirits', 'bandage'],
  lookout: ['spyglass'],
}
const roles41 = {
  format: 3,
  roles: Object.entries(ROLES).map(([id, kit]) => ({
    id,
    title: id[0].toUpperCase() + id.slice(1),
    pay: 10 + id.length,
    kit,
    skills: { swim: id === 'diver' ? 5 : 1, haul: id === 'bosun' ? 4 : 2 },
  })),
}
const roles42 = copy(roles41)
roles42.roles[1].kit.push('slate')
roles42.roles[0].pay = 18
roles42.roles[0].skills.stoke = 3
roles42.roles.splice(3, 0, {
  id: 'purser',
  title: 'Purser',
  pay: 20,
  kit: ['ledger'],
  skills: { swim: 1, haul: 1 },
})
const rolesHarbour = copy(roles41)
rolesHarbour.roles[1].kit.unshift('whistle')
rolesHarbour.roles[0].pay = 25
rolesHarbour.roles[4].skills.swim = 3
const asJson = (value, step = 2) =>
  JSON.stringify(value, null, step).replace(
    /\[\s+("[^[\]{}]*?")\s+\]/g,
    (_, items) => `[${items.replace(/\s*\n\s*/g, ' ')}]`,
  ) + '\n'

// Rules, charts, add-ons

const dive41 = {
  depth: { low: 3, high: 90 },
  limits: { oxygen: 90, charts: 12, divers: 4, minutes: 2.5 },
  signals: 'bell',
  bends: { from: 30, rest: [5, 10, 20] },
  night: false,
}
const dive42 = copy(dive41)
dive42.limits.oxygen = 75
dive42.limits.charts = 14
dive42.limits.torches = 6
dive42.signals = { up: 'bell', down: 'two bells' }
dive42.bends.rest = [5, 10, 25]
const diveHarbour = copy(dive41)
diveHarbour.limits.oxygen = 120
diveHarbour.limits.divers = 8
diveHarbour.signals = 'horn'
diveHarbour['old-harbour'] = { welcome: 'Mind the step.', ferry: true, quiet: { from: 22, to: 6 } }

const sea41 = `; The sea, as it is without mods.
; Heights in metres, speeds in knots.

[sea]
swell_max = 3
swell_min = 0.2
tide = half

; How far one sees.
[light]
surface = 40
below = 12
lantern = yes

[weather]
front = west
front = south-west
storm_every = 20
`
const sea42 = `; The sea, as it is without mods.
; Heights in metres, speeds in knots, times in dives.

[sea]
swell_max = 4
swell_min = 0.2
tide = half
spring_tide = full

; How far one sees.
[light]
surface = 40
below = 14
lantern = yes

; What carries a diver off.
[currents]
reef = 1.5
trench = 3

[weather]
front = west
front = south-west
front = north
storm_every = 18
`
const seaHarbour = sea41
  .replace('swell_max = 3', '; calmer, for the ferry\nswell_max = 2')
  .replace('lantern = yes', 'lantern = yes\npier_lights = 6')
  .replace('front = south-west\n', 'front = south-west\nfront = harbour-mouth\n')

const boats41 = `[skiff]
crew = 2
hold = 4
name = "Skiff; open"

[cutter]
crew = 5
hold = 20

[barge]
crew = 8
hold = 60
`
const boats42 =
  boats41.replace('crew = 5', 'crew = 6').replace('hold = 60', 'hold = 64\ncrane = 1') +
  '\n[raft]\ncrew = 1\nhold = 1\n'
const boatsHarbour = boats41.replace('crew = 5', 'crew = 9').replace('hold = 4\n', 'hold = 6\n')

// What the first trial of 4.3 changes; it is given out as changed files alone.
const boats43 = boats42.replace('[raft]\ncrew = 1', '[raft]\ncrew = 2')
const dive43 = { ...dive42, limits: { ...dive42.limits, oxygen: 70 } }

const ballast41 = '[ballast]\nstone = 3\nwater = 0\n'
const ballastHarbour = ballast41.replace('stone = 3', 'stone = 5')
const weather42 = '[fronts]\nwest = 4\nsouth-west = 2\nnorth = 1\n'

const chartsFile = (names) =>
  `<charts>\n${names.map((name) => `  <chart>${name}</chart>\n`).join('')}</charts>\n`
const charts41 = ['shallows', 'reef', 'kelp forest', 'old pier', 'shelf', 'trench edge', 'trench']
const charts42 = [
  'shallows',
  'reef',
  'kelp forest',
  'old pier',
  'shelf',
  'cold seep',
  'trench edge',
  'trench',
  'below',
]
const chartsHarbour = [
  'shallows',
  'harbour mouth',
  'reef',
  'kelp forest',
  'old pier',
  'shelf',
  'trench edge',
  'trench',
]

const emblem = (middle) =>
  Buffer.from([0x53, 0x4c, 0, 1, ...Array.from({ length: 56 }, (_, i) => (i * middle) % 256), 0, 0])
const readme41 = 'Saltlantern 4.1\n\nPut customised files beside these, never over them.\n'
const readme42 =
  'Saltlantern 4.2\n\nPut customised files beside these, never over them.\nGlass breaks now.\n'
const addOns = (names) => asJson({ addOns: names })
const about = (id, title) => asJson({ id, title, for: '4.1', by: 'Old Harbour' })

// Writing

const releases = {
  'vanilla-4.1': {
    'salvage/finds.xml': findsFile(finds41, ['Saltlantern 4.1: what can be brought up.']),
    'salvage/wrecks.xml': wrecksFile(wrecks41, 'Where it lies.'),
    'crew/roles.json': asJson(roles41),
    'rules/dive.json': asJson(dive41),
    'rules/sea.ini': sea41,
    'rules/boats.ini': boats41,
    'rules/ballast.ini': ballast41,
    'charts/order.xml': chartsFile(charts41),
    'add-ons/list.json': addOns(['base']),
    'readme.txt': readme41,
    'emblem.bin': emblem(3),
    'build.json': asJson({ game: 'Saltlantern', release: '4.1' }),
  },
  'vanilla-4.2': {
    'salvage/finds.xml': findsFile(finds42, ['Saltlantern 4.2: what can be brought up.']),
    'salvage/wrecks.xml': wrecksFile(wrecks42, 'Where it lies, and how deep.'),
    'crew/roles.json': asJson(roles42),
    'rules/dive.json': asJson(dive42),
    'rules/sea.ini': sea42,
    'rules/boats.ini': boats42,
    'rules/weather.ini': weather42,
    'charts/order.xml': chartsFile(charts42),
    'add-ons/list.json': addOns(['base']),
    'readme.txt': readme42,
    'emblem.bin': emblem(5),
    'build.json': asJson({ game: 'Saltlantern', release: '4.2' }),
  },
  'trial-4.3': {
    'rules/dive.json': asJson(dive43),
    'rules/boats.ini': boats43,
    'build.json': asJson({ game: 'Saltlantern', release: '4.3' }),
  },
  'old-harbour': {
    'salvage/finds.xml': findsFile(
      findsHarbour,
      ['Saltlantern 4.1: what can be brought up.', 'Old Harbour: yields are four times vanilla.'],
      ['rusted-hook'],
    ),
    'salvage/wrecks.xml': wrecksFile(wrecksHarbour, 'Where it lies.'),
    'crew/roles.json': asJson(rolesHarbour),
    'rules/dive.json': asJson(diveHarbour, '\t'),
    'rules/sea.ini': seaHarbour,
    'rules/boats.ini': boatsHarbour.replace(/\n/g, '\r\n'),
    'rules/ballast.ini': ballastHarbour,
    'charts/order.xml': chartsFile(chartsHarbour),
    'add-ons/list.json': addOns(['base', 'kelp-lights', 'tidy-holds']),
    'add-ons/kelp-lights/about.json': about('kelp-lights', 'Kelp Lights'),
    'add-ons/tidy-holds/about.json': about('tidy-holds', 'Tidy Holds'),
    'readme.txt': readme41,
    'emblem.bin': emblem(7),
    'build.json': asJson({ game: 'Saltlantern', release: '4.1' }),
  },
}

/** What the story puts at the end of anagnosis.yaml. */
const checks = `checks:
  - { unique: "salvage/finds.xml: find[*]/@id" }
  - at: "salvage/finds.xml: find[*]"
    less-or-equal: ["yield/@least", "yield/@most"]
  - { every: "rules/dive.json: limits/oxygen", in-range: [10, 240] }
  - { agree: ["add-ons/*/", "add-ons/*/about.json: id"] }
  - { every: "add-ons/*/about.json: for", reaches: game-version }
  - { landmark: "salvage/finds.xml: find[storm-glass]", since: "4.2" }
`

rmSync(target, { recursive: true, force: true })
for (const [release, files] of Object.entries(releases)) {
  for (const [path, content] of Object.entries(files)) {
    const location = join(target, release, path)
    mkdirSync(dirname(location), { recursive: true })
    writeFileSync(location, content)
  }
}
writeFileSync(join(target, 'checks.yaml'), checks)
