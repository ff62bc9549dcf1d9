import { count } from '@/composables/lengths'

/** What the station of checking and mending says. */
export const check = {
  looking: 'Looking for faults; a large design takes a moment.',
  empty: 'There is nothing to check yet: bring in a design first.',
  clean: 'Nothing was found that would spoil the cut.',
  stops: (number: number) => `${number} ${number === 1 ? 'stops' : 'stop'} the cut`,
  spoils: (number: number) => `${number} ${number === 1 ? 'spoils' : 'spoil'} it`,
  notes: (number: number) => `${number} worth knowing`,
  aside: (number: number) => `${number} ignored`,
  takeBack: 'Take back',
  joinParts: (number: number) => `Join what lies apart (${number})`,
  mendAll: (number: number) => `Mend all that is safe (${number})`,
  safe: (pieces: number) => `lines move by 0.25 mm at most · ${count(pieces, 'piece')} now · can be taken back`,
  on: 'On to Handover',
  onAsItIs: 'Go on without mending',
  lookFirst: 'Preview, then decide: taking it changes what is seen by more than the tolerance.',
  take: 'Take this mend',
  setAside: 'Ignore',
  showPlace: 'Show it',
  saved: (nodes: number, line: string, seconds: number) =>
    `The mends saved ${count(nodes, 'node')} and ${line} mm of cutting${seconds >= 1 ? `, about ${Math.round(seconds)} s` : ''}.`,
  toCut: (line: string) => `${line} to cut.`,
  noAnswer: 'Whether it holds together is not known.',
  unchecked: 'It could not be looked at for faults, so nothing is known of it.',
  again: 'Try again',
  takeKind: (number: number) => `Take all ${number.toLocaleString('en')}`,
  lookFirstKind: 'Preview, then decide: what is seen changes.',
  showMore: (number: number) => `Show more (${number.toLocaleString('en')})`,
  notListed: (number: number) => `${number.toLocaleString('en')} more are counted, but not listed one by one.`,
  which: 'How should it be mended?',
  why: 'Why it stays so (may stay empty)',
  onLayer: 'On layer',
  allLayers: 'all layers',
}

export const mend = {
  now: (nodes: number) => `now, ${nodes} nodes`,
  nowLabel: 'The lines as they are, with the one that goes marked',
  mended: (nodes: number) => `mended, ${nodes} nodes`,
  mendedLabel: 'The lines as they would be',
}

export const against = {
  title: 'Checked for',
  anyMaterial: 'no material chosen',
  anyMachine: 'no machine chosen',
  purpose: 'Purpose',
  least_strip_mm: 'Narrowest strip',
  least_gap_mm: 'Narrowest gap',
  least_piece_mm2: 'Smallest part',
  wrong: 'Type a size above nothing.',
  mustBeOne: (pieces: number) => (pieces === 1 ? 'The picked piece must be one' : `Each of the ${pieces} picked pieces must be one`),
  pickForOne: 'Pick a piece on the work to say that it must be one.',
  areOne: (pieces: number) => `${count(pieces, 'piece')} must be one; pick to change that.`,
}
