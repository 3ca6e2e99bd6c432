/** What can't be read, in a sentence for a person. */
export class Unreadable extends Error {
  override readonly name = 'Unreadable';
}
