/** Files on their way to a machine. */
export const sending = {
  title: 'On the machine',
  send: (machine: string) => `Send to the ${machine}`,
  again: 'Send it once more',
  state: (state: string, machine: string, wish: string) =>
    ({
      waiting: `Waits for the ${machine}`,
      running: wish === 'pause' ? `The ${machine} ends its stroke` : wish ? `The ${machine} is stopped` : `The ${machine} works`,
      paused: `The ${machine} is paused: its tool is up`,
      stopped: `The ${machine} does not go on`,
      done: `The ${machine} is done`,
      cancelled: 'Cancelled: the tool is up',
    })[state] ?? state,
  strokes: (done: number, all: number) => `${done} of ${all} strokes`,
  whole: 'put into its folder',
  left: (time: string) => `about ${time} left`,
  pause: 'Pause',
  goOn: 'Go on',
  goOnWith: (stroke: number) => `Go on with stroke ${stroke}`,
  anew: 'Begin anew',
  cancel: 'Cancel',
  earlier: 'Sent before',
  when: (what: string, at: string) => `${what}, ${at}`,
}
