import { count } from '@/composables/lengths'

/** The station Handover: files, their proof, and the pieces that they hold. */
export const handover = {
  empty: 'There is nothing to write yet: bring in a design first.',
  nothing: 'There is nothing in this design that can be cut.',
  hidden: (pieces: number) => `${count(pieces, 'hidden piece is', 'hidden pieces are')} in the file as well: hiding is for the eye only.`,
  leaveOut: (pieces: number) => `Delete ${pieces === 1 ? 'it' : 'them'}`,
  question: 'Which kind of file do you need?',
  format: 'Format',
  about: {
    svg: 'Curves as they are, for other programs and lasers.',
    dxf: 'Curves as they are, a layer each, for drawing programs and lasers.',
    hpgl: 'Straight strokes on a 0.025 mm grid, for knife plotters and pens.',
    gcode: 'Straight moves and true arcs, for lasers, and for knives and pens that are moved by a controller.',
    pdf: 'One page at its true size, to print or to hand on.',
  } as Record<string, string>,
  onSheets: (sheets: number) => `This job lies on ${count(sheets, 'sheet', 'sheets')}. What is written here is the whole design;`,
  ofSheets: 'each sheet has its own files',
  allSheets: ', and the archive below holds them all.',
  grave: (findings: number) => `${findings === 1 ? 'One finding' : `${findings} findings`} would spoil the cut`,
  asItIs: ': the file holds the design as it is now.',
  unproven: (format: string) => `${format} is written from the design's own curves. It is not read back here yet, so there is no proof.`,
  proveTheirs: 'Prove a file you have',
  backToOurs: "Back to this design's own",
  choose: 'Choose a machine file',
  write: (format: string) => `Write ${format}`,
  assembly: 'A page with a number on each piece, layer by layer:',
  archive: 'Everything in one archive',
  archiveHint: ': files of all sheets, proven, with a cover, placing pages and lists.',
  asPage: (kind: string) => `as ${kind}`,
  trueSize: 'The file carries its true size: leave scale at 100 % when you open it.',
}

export const proof = {
  wrong: (missing: number, extra: number) => {
    const parts = []
    if (missing) parts.push(`${missing} ${missing === 1 ? 'line is' : 'lines are'} missing`)
    if (extra) parts.push(`${extra} ${extra === 1 ? 'line is' : 'lines are'} too many`)
    return `In the file, ${parts.join(' and ')}.`
  },
  oneSide: 'The file cannot be compared: one side has no lines.',
  within: (mm: string) => `The file lies on the design within ${mm} mm.`,
  file: 'file',
  theirs: 'proven file',
  deviation: 'largest deviation',
  none: 'none',
  limit: (deviation: string, limit: number) => `${deviation}, at most ${limit} mm is right`,
  at: (x: string, y: string) => `; at ${x}, ${y} mm`,
  line: 'line in the file',
  lines: (file: string, design: string) => `${file}, in the design ${design}`,
  missing: 'missing, too many',
  picture: "The picture is drawn from the file's own bytes, read back; the pale band is the design.",
}

export const pieceList = {
  holds: 'Taken apart, the file holds',
  piece: 'piece',
  pieces: 'pieces',
  unnamed: (number: number) => `piece ${number}`,
  line: ', a line',
  shapes: (number: number) => `, ${number} shapes`,
  holes: (number: number) => `, ${count(number, 'hole')}`,
  more: (number: number) => `and ${number} more`,
}
