/** What is played to meter and to listen, and the song that the rig stands for. */
export interface HeardBy {
  dry: string | undefined
  song: string | undefined
}
