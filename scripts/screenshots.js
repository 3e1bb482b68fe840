// Takes docs/screenshots/: each main command's output on the demo data, in a terminal window of about
// 1280x800. Needs Xvfb, xterm and ImageMagick's import (Debian: xvfb xterm imagemagick fonts-dejavu-core).
import { spawn, spawnSync } from 'node:child_process'
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))
const DISPLAY = ':87'
const CARRY = 'anagnosis carry --old vanilla-4.1 --new vanilla-4.2 --mine old-harbour --out carried'

/** What is done before each picture. */
const SET_UP = [
  'setup --variant old-harbour --folder old-harbour --vanilla 4.1 --source vanilla-4.1 --game Saltlantern',
  'vanilla add 4.2 vanilla-4.2',
]

/** A terminal in a terminal, to which keys can be sent from here. */
const IN_TMUX =
  'tmux -L anagnosis-shots -f /dev/null new-session -e FORCE_COLOR=3 -e COLORTERM=truecolor'

/** What is typed for each picture, in a folder that holds the demo data. */
const SHOTS = {
  setup: {
    set: [
      'rm -rf anagnosis.yaml .anagnosis',
      'mkdir -p old-harbour/bin old-harbour/divers old-harbour/logs',
      'touch old-harbour/bin/salt.exe old-harbour/bin/pump.dll old-harbour/divers/ada.json old-harbour/logs/dives.log',
    ],
    type: 'anagnosis setup --variant old-harbour --folder old-harbour --vanilla 4.1 --source vanilla-4.1 --game Saltlantern; echo; echo "$ cat anagnosis.yaml"; cat anagnosis.yaml',
  },
  whatsnew: { set: [], type: 'anagnosis whatsnew 4.1 4.2 --for old-harbour | head -n 40' },
  deliver: {
    set: [
      `sed -i '$a reminders: ["Restart Old Harbour and dive once to the reef."]' anagnosis.yaml`,
      'anagnosis carry old-harbour --to 4.2',
      "anagnosis settle old-harbour --file '**' --take mine",
    ],
    type: 'anagnosis deliver old-harbour --dry-run; echo; echo "$ anagnosis deliver old-harbour --yes"; echo; anagnosis deliver old-harbour --yes',
  },
  overview: {
    set: [
      'anagnosis carry old-harbour --to 4.2',
      "anagnosis settle old-harbour --file '**' --take mine",
      'anagnosis deliver old-harbour --yes',
      'cp -r vanilla-4.2/. old-harbour',
      'mkdir trench',
      'cp -r vanilla-4.2/rules trench',
      'printf \'  trench: { folder: trench, vanilla: "4.2", sparse: true }\\n\' > more.txt',
      "sed -i '/^  old-harbour:/r more.txt' anagnosis.yaml",
    ],
    type: 'anagnosis overview; echo; echo "$ anagnosis vanilla guess trench"; echo; anagnosis vanilla guess trench',
  },
  demo: { set: [], type: 'anagnosis demo /tmp/saltlantern | tail -n 40', at: '/' },
  carry: {
    set: [],
    type: 'anagnosis carry old-harbour --to 4.2 | head -n 40',
  },
  'settle-list': {
    set: ['anagnosis carry old-harbour --to 4.2'],
    type: 'anagnosis settle old-harbour --list | head -n 39',
  },
  check: {
    set: ['cat checks.yaml >> anagnosis.yaml', 'anagnosis carry old-harbour --to 4.2'],
    type: 'anagnosis check old-harbour --draft',
  },
  settle: {
    set: ['anagnosis carry old-harbour --to 4.2'],
    type: `${IN_TMUX} "anagnosis settle old-harbour"`,
    keys: ['3'],
  },
  'settle-tune': {
    set: [
      'anagnosis carry old-harbour --to 4.2',
      "anagnosis settle old-harbour --file '**' --take mine",
    ],
    type: `${IN_TMUX} "anagnosis settle old-harbour"`,
    keys: ['Down', 'Right', 'Down', 'Down', 'Enter', '1', '4', '0'],
  },
  'carry-unread': {
    set: [
      'sed -i \'0,/\\"oxygen\\": 120,/s//\\"oxygen\\": 120/\' old-harbour/rules/dive.json',
      "sed -i '0,/<\\/deck>/s///' old-harbour/salvage/wrecks.xml",
    ],
    type: `${CARRY} | tail -n 40`,
  },
}

for (const tool of ['Xvfb', 'xterm', 'import', 'tmux']) {
  if (spawnSync('which', [tool]).status !== 0) {
    console.error(
      `${tool} is not here. On Debian: apt-get install xvfb xterm imagemagick tmux fonts-dejavu-core`,
    )
    process.exit(1)
  }
}

const work = mkdtempSync(join(tmpdir(), 'anagnosis-shots-'))
mkdirSync(join(work, 'bin'))
symlinkSync(join(root, 'bin', 'anagnosis.js'), join(work, 'bin', 'anagnosis'))
const env = {
  ...process.env,
  DISPLAY,
  PATH: `${join(work, 'bin')}:${process.env.PATH}`,
  COLORTERM: 'truecolor',
}
delete env.NO_COLOR
const server = spawn('Xvfb', [DISPLAY, '-screen', '0', '1280x800x24'], { stdio: 'ignore' })
const pause = (milliseconds) => new Promise((done) => setTimeout(done, milliseconds))
await pause(1000)

/** Waits until a command has ended, as a file says, and what it printed is drawn. */
async function written(file) {
  for (let tries = 0; !existsSync(file); tries++) {
    if (tries > 300) throw new Error(`${file} never came`)
    await pause(500)
  }
  await pause(1000)
}

mkdirSync(join(root, 'docs', 'screenshots'), { recursive: true })
for (const [name, { set, type, keys = [] }] of Object.entries(SHOTS)) {
  if (process.argv.length > 2 && !process.argv.includes(name)) continue
  const data = join(work, name)
  rmSync('/tmp/saltlantern', { recursive: true, force: true })
  cpSync(join(root, 'demo/data'), data, { recursive: true })
  for (const call of SET_UP)
    spawnSync('anagnosis', call.split(' '), { cwd: data, env, stdio: 'ignore' })
  for (const command of set) spawnSync('sh', ['-c', command], { cwd: data, env })
  const script = join(work, `${name}.sh`)
  writeFileSync(
    script,
    type.startsWith(IN_TMUX)
      ? `cd ${data}\nunset COLUMNS\n${type} \\; set -g status off \\; set -as terminal-features ',xterm*:RGB'\nsleep 60\n`
      : `cd ${data}\nprintf '$ ${type.replace(/( \||; echo).*/, '')}\\n\\n'\nexport FORCE_COLOR=1 COLUMNS=120\n${type}\ntouch ${work}/${name}.done\nsleep 60\n`,
  )
  const window = spawn(
    'xterm',
    [
      '-geometry',
      '140x43+0+0',
      '-fa',
      'DejaVu Sans Mono',
      '-fs',
      '10.5',
      '-bg',
      '#12161b',
      '-fg',
      '#d6dde4',
      '-bw',
      '12',
      '+sb',
      '-e',
      'bash',
      script,
    ],
    { env, stdio: 'ignore' },
  )
  if (type.startsWith(IN_TMUX)) await pause(6000)
  else await written(join(work, `${name}.done`))
  for (const key of keys) {
    spawnSync('tmux', ['-L', 'anagnosis-shots', 'send-keys', key], { env })
    await pause(1000)
  }
  const file = join(root, 'docs', 'screenshots', `${name}.png`)
  const taken = spawnSync('import', ['-window', 'root', '-display', DISPLAY, file], { env })
  window.kill()
  spawnSync('tmux', ['-L', 'anagnosis-shots', 'kill-server'], { env })
  if (taken.status !== 0) throw new Error(`no picture of ${name}: ${taken.stderr}`)
  console.log(`docs/screenshots/${name}.png`)
}
server.kill()
rmSync(work, { recursive: true, force: true })
