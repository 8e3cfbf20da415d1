import { useQuery } from '@tanstack/react-query'
import styled from 'styled-components'
import { answer, client } from '../../api/client'
import { Fold } from '../../ui/Fold'
import { Figure, Heading, Muted, Stack, Title } from '../../ui/layout'

/** Which Envex this is, and what ships with it. */
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
      <Muted>Everything stays on this machine: nothing is sent anywhere.</Muted>
      <Licences />
    </Stack>
  )
}

/** What others made and Envex ships with, and the licence each is given under. */
function Licences() {
  const { data, error } = useQuery({
    queryKey: ['about', 'licences'],
    queryFn: () => answer(client.GET('/api/about/licences')),
    staleTime: Number.POSITIVE_INFINITY,
  })
  return (
    <Stack as="section" aria-label="Licences" $gap={4}>
      <Heading>Licences</Heading>
      <Muted>Envex is built on the work of others. Each part is given under its own licence.</Muted>
      {error && <Muted role="alert">{error.message}</Muted>}
      {data?.texts.map((text, i) => {
        const parts = data.parts.filter((p) => p.text === i)
        return (
          <Fold key={parts[0]?.name} title={`${parts.map((p) => p.name).join(', ')}: ${parts[0]?.licence}`}>
            <ul>
              {parts.map((p) => (
                <li key={p.name}>
                  {p.name} <Figure>{p.version}</Figure>
                </li>
              ))}
            </ul>
            <Text>{text}</Text>
          </Fold>
        )
      })}
    </Stack>
  )
}

const Text = styled.pre`font: 400 12px/1.4 var(--face-figures); white-space: pre-wrap; overflow-wrap: anywhere; margin: 8px 0 16px;`
