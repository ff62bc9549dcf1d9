import { en } from './en'

/** All that the interface says, in the language in use. Another language is another object of the same shape. */
export type Words = typeof en
export const words: Words = en
