/** What is asked for what would help where a change stands. */
export const repairsAt = (
  rig: string,
  setList: string,
  destination: string | undefined,
  position: number,
) => ({
  rig,
  set_list: setList,
  destination,
  position,
})
