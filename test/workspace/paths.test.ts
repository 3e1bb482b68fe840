import { posix, win32 } from 'node:path'
import { describe, expect, test } from 'vitest'
import { keyInFile } from '../../src/core/keys/file-key.ts'
import { pathPattern } from '../../src/workspace/config/path-pattern.ts'
import { asTreePath, isInside, isSamePath, nameFrom } from '../../src/workspace/paths.ts'

describe('paths of Windows', () => {
  test.each([
    ['C:\\Games\\Harbour', 'c:\\games\\harbour', true],
    ['C:\\Games\\Harbour\\', 'C:/Games/Harbour', true],
    ['C:\\Games\\Harbour', 'D:\\Games\\Harbour', false],
    ['C:\\Games\\Harbour', 'C:\\Games\\Harbour2', false],
  ])('%s and %s are one place: %s', (one, other, is) => {
    expect(isSamePath(one, other, win32)).toBe(is)
  })

  test.each([
    ['C:\\Games\\Harbour\\rules', 'c:\\games\\harbour', true],
    ['C:\\Games\\Harbour', 'C:\\Games\\Harbour', true],
    ['C:\\Games\\Harbour2', 'C:\\Games\\Harbour', false],
    ['C:\\Games', 'C:\\Games\\Harbour', false],
    ['D:\\rules', 'C:\\', false],
    ['C:\\Games\\..rules', 'C:\\Games', true],
  ])('%s lies in %s: %s', (inner, outer, is) => {
    expect(isInside(inner, outer, win32)).toBe(is)
  })

  test.each([
    ['C:\\Games', 'c:\\games\\Servers\\Harbour', 'Servers/Harbour'],
    ['C:\\Games', 'C:\\Games', '.'],
    ['C:\\Games', 'D:\\Harbour', 'D:\\Harbour'],
    ['C:\\Games', 'C:\\Other', 'C:\\Other'],
  ])('from %s the folder %s is called %s', (root, folder, name) => {
    expect(nameFrom(root, folder, win32)).toBe(name)
  })

  test('elsewhere capitals tell places apart', () => {
    expect(isSamePath('/srv/Harbour', '/srv/harbour', posix)).toBe(false)
    expect(isInside('/srv/harbour/rules', '/srv/harbour', posix)).toBe(true)
    expect(nameFrom('/srv', '/srv/harbour', posix)).toBe('harbour')
  })

  test('stand in patterns and in keys of files as they are written there', () => {
    expect(asTreePath('.\\Rules\\dive.json')).toBe('Rules/dive.json')
    const path = 'salvage/deep/finds.xml'
    for (const pattern of ['salvage\\**', '.\\Salvage\\deep\\*.XML', 'salvage/*/finds.xml'])
      expect([pattern, pathPattern(pattern)(path)]).toEqual([pattern, true])
    expect(pathPattern('salvage\\*.xml')(path)).toBe(false)
    expect(pathPattern('odd \\[1\\].ini')('odd [1].ini')).toBe(true)
    expect(keyInFile(path, 'Salvage\\deep\\finds.xml: find[lamp]/worth')).toBe('find[lamp]/worth')
    expect(keyInFile(path, 'find[lamp]/worth')).toBe('find[lamp]/worth')
  })
})
