// Where a meeting stands so many seconds after the server last said so: the same arithmetic as the server's own clock, held to the same
// examples (tests/vectors/clock.json). It touches no page, so that it can be run beside them.
"use strict";

globalThis.HarborCount = {
  /** Line and seconds into it, and within a set which pose is held and how long still. */
  at(state, elapsed) {
    let index = state.index;
    let into = state.into + (state.running ? elapsed : 0);
    // A thousandth of a second of slack keeps a boundary from being missed by rounding.
    while (index < state.items.length && into >= state.items[index].seconds - 0.001) {
      into = Math.max(0, into - state.items[index].seconds);
      index++;
    }
    const item = state.items[index];
    if (!item) return { index, into: 0, pose: 0, left: 0 };
    const pose = this.pose(item, into);
    const left = pose < item.poses - 1 ? this.start(item, pose + 1) - into : item.seconds - into;
    return { index, into, pose, left };
  },

  /** Which pose of a line is held, from 0. A set that was broken into goes on in the middle of one. */
  pose(item, into) {
    if (!(item.poses > 1) || !(item.poseSeconds > 0)) return 0;
    return Math.max(0, Math.min(item.poses - 1, Math.floor((into + item.poseInto + 1e-6) / item.poseSeconds)));
  },

  /** Seconds from the line's start to that of its pose n. */
  start: (item, n) => (n === 0 ? 0 : n * item.poseSeconds - item.poseInto),
};
