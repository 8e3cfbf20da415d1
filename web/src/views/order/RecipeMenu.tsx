import { useState } from 'react'
import { freshId } from '../../api/client'
import type { Recipe } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { usePlace } from '../../state/place'
import { apart, withRecipes } from '../../state/there'
import { Actions } from '../../ui/Actions'
import { AskName } from '../../ui/dialogs'

/** What can be done with the recipe under the cursor: a sound may have several in one rig,
 * and a section may choose one that is not the usual. */
export function RecipeMenu() {
  const { rig, here, destination, sound, recipe, section } = usePlace()
  const edit = useEdit()
  const [naming, setNaming] = useState(false)
  if (!rig || !here || !sound || !recipe || !section) return null
  const others = (here.recipes ?? []).filter((r) => r.sound === sound.id)
  const usual = others[0]?.id === recipe.id
  const change = (what: string, update: (list: Recipe[]) => Recipe[]) =>
    edit.change('rigs', rig.id, what, (r) => withRecipes(r, destination?.id, recipe.id, update))
  const choose = (id: string | undefined) =>
    edit.change('songs', section.song_id, `Recipe in ${section.song}`, (s) => ({
      ...s,
      sections: s.sections.map((x) => (x.id === section.section_id ? { ...x, recipe: id } : x)),
    }))
  const another = async () => {
    const id = freshId()
    void change(`Another recipe for ${sound.name}`, (all) => {
      const like = all.find((r) => r.id === recipe.id) ?? recipe
      return [...all, { ...like, id, name: `Another ${sound.name}` }]
    })
    await choose(id)
  }
  const remove = async () => {
    const used = section.recipe === recipe.id && !usual
    if (used) await choose(undefined)
    await change(`Remove a recipe for ${sound.name}`, (all) => all.filter((r) => r.id !== recipe.id))
  }
  return (
    <>
      <Actions
        label={`Recipe for ${sound.name}`}
        acts={[
          { id: 'another', name: `Another recipe for ${sound.name}, here`, run: () => void another() },
          { id: 'name', name: 'Name this recipe', run: () => setNaming(true) },
          {
            id: 'usual',
            name: `Make it the usual ${sound.name}`,
            disabled: usual,
            run: () =>
              void change(`The usual ${sound.name}`, (all) => [
                ...all.filter((r) => r.id === recipe.id),
                ...all.filter((r) => r.id !== recipe.id),
              ]),
          },
          ...others
            .filter((r) => r.id !== recipe.id)
            .map((r) => ({
              id: r.id,
              name: `Use ${r.name ?? `the usual ${sound.name}`} here`,
              run: () => void choose(r.id === others[0]?.id ? undefined : r.id),
            })),
          ...(destination && rig.recipes?.includes(recipe)
            ? [
                {
                  id: 'apart',
                  name: `Set it apart at ${destination.name}`,
                  run: () =>
                    edit.change('rigs', rig.id, `${sound.name} at ${destination.name}`, (r) =>
                      apart(r, destination.id, recipe),
                    ),
                },
              ]
            : []),
          { id: 'remove', name: 'Remove this recipe', run: () => void remove() },
        ]}
      >
        {recipe.name ?? 'Recipe'}
      </Actions>
      {naming && (
        <AskName
          title="Name this recipe"
          initial={recipe.name}
          onCancel={() => setNaming(false)}
          onDone={(name) => {
            setNaming(false)
            void change(`Name ${name}`, (all) => all.map((r) => (r.id === recipe.id ? { ...r, name } : r)))
          }}
        />
      )}
    </>
  )
}
