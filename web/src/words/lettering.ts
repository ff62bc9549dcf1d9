import { count } from '@/composables/lengths'

/** Words that are set as outlines, and the faces they are set in. */
export const lettering = {
  faces: 'Faces',
  ownFace: 'a face of your own',
  bring: 'Bring a face ...',
  chosen: 'Done',
  pieces: (pieces: number) => count(pieces, 'piece'),
  thinnest: (width: string) => `thinnest stroke ${width} mm`,
  tooThin: (width: string, least: string, material: string) => `thinnest stroke ${width} mm; ${material} wants ${least} mm`,
  counter: (across: string) => `smallest counter ${across} mm`,
  lacks: (letters: string) => `lacks ${letters}`,
  ofFace: 'Of this face',
  letters: 'Single letters',
  lettersHint: 'Pick a letter and move it. It stays so when the words are typed anew, as long as the letter is there.',
  oneLetter: (id: string) => `Letter ${id}`,
  moves: {
    along: 'along, mm',
    up: 'up, mm',
    turn: 'turned, degrees',
    shear: 'sheared, degrees',
    wide: 'width, times',
    high: 'height, times',
  },
  fromFile: 'Names from a file (text or CSV)',
  column: 'Which column',
  begin: 'Begin with words',
  setThese: 'Set these words',
  newJob: 'New job',
}
