/** Following what workers are at: asked again until it rests; where the server is away, with patience. A newer call ends an older one. */
export function useFollowing(project: () => string | undefined) {
  let number = 0
  /** ask: of a project, waiting a little for news; took: takes an answer, and says whether it goes on. */
  async function follow(
    ask: (project: string) => Promise<{ data?: unknown; response: Response }>,
    took: (data: unknown) => boolean,
  ): Promise<void> {
    const mine = ++number
    const id = project()
    const wanted = () => mine === number && project() === id
    let patience = 250
    while (id && wanted()) {
      try {
        const { data, response } = await ask(id)
        if (!wanted()) return
        if (data) {
          patience = 250
          if (took(data)) continue
          return
        }
        if (response.status < 500) return
      } catch {
        // the server is away: the workers go on without it
      }
      await new Promise((done) => setTimeout(done, patience))
      patience = Math.min(patience * 2, 4000)
    }
  }
  /** No longer follow. */
  const leave = () => void number++
  return { follow, leave }
}
