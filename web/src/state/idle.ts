/** Comes when the page has nothing else to do, or after a while. */
export const idle = () =>
  new Promise<void>((done) => {
    if (window.requestIdleCallback) window.requestIdleCallback(() => done(), { timeout: 1500 })
    else window.setTimeout(done, 200)
  })
