import { pick } from '../../core/document/pick.ts'
import type { LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import type { FormatName } from '../../core/formats/index.ts'
import { formatNamed } from '../../core/formats/index.ts'
import type { Side, Triple } from '../../core/document/sides.ts'
import { NEW, OLD, SIDE_NAMES, SIDES, triple } from '../../core/document/sides.ts'
import { alphabetOf } from '../content/alphabet.ts'
import { hasAll, isKnownEncoding } from '../content/codec.ts'
import type { FileInput } from './file-input.ts'
import type { Decoded, TextForm } from '../content/text-file.ts'
import { AS_BYTES, decode, encode, isPlainAscii, isSingleByte } from '../content/text-file.ts'

/** The inputs of one file as texts, and the form that the result's text gets. */
export class DecodedInputs {
  readonly texts: Triple<string | undefined>
  /** Bytes that are no text in their encoding. */
  readonly problems: LocatedProblem[]
  private readonly decoded: Triple<Decoded | undefined>

  private readonly path: string

  constructor(input: FileInput) {
    this.path = input.path
    this.decoded = decodeAll(input)
    this.texts = triple((side) => textOf(this.decoded[side]))
    this.problems = SIDES.flatMap((side) =>
      invalidProblem(input.path, this.decoded[side], SIDE_NAMES[side]),
    )
  }

  /** Whether a text in a form is what an input holds. */
  isSame(side: Side, text: string, form: TextForm): boolean {
    const each = this.decoded[side]
    if (each === undefined || !('form' in each)) return false
    return each.text === text && each.form.encoding === form.encoding && each.form.bom === form.bom
  }

  /** Whether all inputs are UTF-8, so that their bytes can be made again from their texts. */
  get isUtf8(): boolean {
    return this.decoded.every(
      (each) => each === undefined || ('form' in each && each.form.encoding === 'utf-8'),
    )
  }

  /** An input with its bytes, made again from the texts where they were let go. */
  restored(input: FileInput): FileInput {
    const bytes = triple((side) => {
      const each = this.decoded[side]
      const known = input.bytes[side]
      return (
        known ?? (each !== undefined && 'form' in each ? encode(each.text, each.form) : undefined)
      )
    })
    return { ...input, bytes }
  }

  /** The form of a result, chosen three-way; new's, with a warning, where mine's cannot hold it. */
  formFor(
    text: string,
    format: FormatName | 'text',
  ): { form: TextForm; warnings: LocatedProblem[] } {
    const form = pickForm(this.decoded)
    if (canHold(form, text, format)) return { form, warnings: [] }
    const fresh = this.decoded[NEW]
    const taken = fresh !== undefined && 'form' in fresh ? fresh.form : form
    return { form: taken, warnings: [takesEncodingOfNew(this.path, form, taken)] }
  }
}

/** The texts of all inputs. */
function decodeAll(input: FileInput): Triple<Decoded | undefined> {
  const known = input.bytes.filter((bytes) => bytes !== undefined)
  const encoding = known.some(isSingleByte) ? singleByteEncoding(input, known) : undefined
  return triple((side) => {
    const each = input.bytes[side]
    return each === undefined ? undefined : decode(each, encoding)
  })
}

/**
 * The encoding of inputs that are no UTF-8 and do not say what they are. Where all are so (or plain
 * ASCII) and vanilla's files are, they are carried as bytes: which letters they mean need not be known.
 * Where some are UTF-8, the words that they share tell it. Undefined where neither holds.
 */
function singleByteEncoding(input: FileInput, known: readonly Buffer[]): string | undefined {
  const others = known.filter((bytes) => !isSingleByte(bytes))
  if (others.every(isPlainAscii)) {
    const vanilla = [input.bytes[OLD], input.bytes[NEW]]
    const isVanillas = vanilla.some((each) => each !== undefined && isSingleByte(each))
    return isVanillas || input.vanillaIsSingleByte?.() === true ? AS_BYTES : undefined
  }
  const texts = others.map((bytes) => textOf(decode(bytes)) ?? '')
  return alphabetOf(known.filter(isSingleByte), texts)
}

/** Whether a form can hold a text: some formats can name any character in ASCII. */
function canHold(form: TextForm, text: string, format: FormatName | 'text'): boolean {
  if (form.encoding === AS_BYTES) return true
  if (format !== 'text' && formatNamed(format).escape !== undefined) return true
  return form.encoding.startsWith('utf-') || hasAll(form.encoding, text)
}

function takesEncodingOfNew(path: string, mine: TextForm, taken: TextForm): LocatedProblem {
  return fileProblem(path, {
    severity: 'warning',
    code: 'text/encoding-of-new',
    message: `vanilla brings characters that your file's encoding (${mine.encoding}) lacks; the result is ${taken.encoding}, as new is`,
  })
}

function textOf(decoded: Decoded | undefined): string | undefined {
  return decoded !== undefined && 'text' in decoded ? decoded.text : undefined
}

function pickForm(decoded: Triple<Decoded | undefined>): TextForm {
  const forms = triple((side) => {
    const each = decoded[side]
    return each !== undefined && 'form' in each ? each.form : undefined
  })
  if (forms.some((form) => form?.encoding === AS_BYTES)) return { encoding: AS_BYTES, bom: false }
  const encoding = pick(triple((side) => forms[side]?.encoding)) ?? 'utf-8'
  const bom = pick(triple((side) => forms[side]?.bom)) ?? false
  return { encoding, bom: encoding === 'utf-8' ? bom : encoding.startsWith('utf-16') }
}

function invalidProblem(
  path: string,
  decoded: Decoded | undefined,
  input: (typeof SIDE_NAMES)[number],
): LocatedProblem[] {
  if (decoded === undefined || !('invalid' in decoded)) return []
  const { line, column, text, byte, encoding } = decoded.invalid
  const isUtf8 = encoding === 'utf-8'
  return [
    {
      severity: 'error',
      code: isUtf8 ? 'text/not-utf-8' : 'text/not-as-declared',
      message: isUtf8
        ? `byte ${byte + 1} of the file is no UTF-8 text`
        : isKnownEncoding(encoding)
          ? `the file says that it is ${encoding}, and its bytes are not`
          : `the file says that it is ${encoding}, and no such encoding is known here`,
      path,
      line,
      column,
      input,
      text,
      width: isUtf8 ? 1 : encoding.length,
      hint: 'save the file as UTF-8, or in the encoding that vanilla has',
    },
  ]
}
