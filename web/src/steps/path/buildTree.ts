/** Builds as a tree of what-ifs: each behind the one that it was copied from. */
export interface Copied {
  id: string
  copied_from_id: string | null
}

export interface InTree<B> {
  build: B
  /** Its place in the list as it was given. */
  at: number
  depth: number
}

/** The builds in the order of their tree; what was copied from none, or from one that is gone, is a root. */
export function asTree<B extends Copied>(builds: B[]): InTree<B>[] {
  const known = new Set(builds.map((b) => b.id))
  const under = (parent: string | null, depth: number): InTree<B>[] =>
    builds.flatMap((build, at) => {
      const from =
        build.copied_from_id != null && known.has(build.copied_from_id) ? build.copied_from_id : null
      return from === parent ? [{ build, at, depth }, ...under(build.id, depth + 1)] : []
    })
  return under(null, 0)
}
