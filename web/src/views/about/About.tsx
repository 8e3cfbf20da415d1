import { useQuery } from '@tanstack/react-query'
import { answer, client } from '../../api/client'
import { Muted, Stack, Title } from '../../ui/layout'

/** Which Envex this is. */
export function About() {
  const { data } = useQuery({
    queryKey: ['about'],
    queryFn: () => answer(client.GET('/api/about')),
    staleTime: Number.POSITIVE_INFINITY,
  })
  return (
    <Stack>
      <Title>About Envex</Title>
      {data && (
        <p>
          Envex {data.version}
          {data.commit ? `, commit ${data.commit.slice(0, 12)}${data.changed ? ' with changes' : ''}` : ''},
          built by {data.go} for {data.system}.
        </p>
      )}
      <Muted>
        Everything stays on this machine: nothing is sent anywhere. The fonts that ship with it are under the
        SIL Open Font License.
      </Muted>
    </Stack>
  )
}
