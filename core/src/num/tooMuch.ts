/** A level asks for more than can be made of it: told at the door, with what to change. Nothing is half done. */
export class TooMuch extends Error {
  readonly code = 'level-too-heavy';
}
