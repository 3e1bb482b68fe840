import Carry from './carry.ts'
import Demo from './demo.ts'
import WhatsNew from './whatsnew.ts'
import VanillaAdd from './vanilla/add.ts'
import VanillaGuess from './vanilla/guess.ts'
import VanillaList from './vanilla/list.ts'
import VanillaRemove from './vanilla/remove.ts'
import VanillaVerify from './vanilla/verify.ts'

/** The commands by the words that call them. */
export const COMMANDS = {
  carry: Carry,
  demo: Demo,
  'vanilla:add': VanillaAdd,
  'vanilla:guess': VanillaGuess,
  'vanilla:list': VanillaList,
  'vanilla:remove': VanillaRemove,
  'vanilla:verify': VanillaVerify,
  whatsnew: WhatsNew,
}
