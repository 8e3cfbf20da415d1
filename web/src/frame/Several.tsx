import styled from 'styled-components'

/** Several names, one under the other in as many columns as there is room for, where a sentence would be too long. */
export function Several({ of }: { of: string[] }) {
  return (
    <List>
      {of.map((name) => (
        <li key={name} title={name}>
          {name}
        </li>
      ))}
    </List>
  )
}

const List = styled.ul`
  display: grid; grid-template-columns: repeat(auto-fill, minmax(88px, 1fr)); gap: 1px 10px;
  li { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; border-bottom: 1px solid var(--line); padding: 2px 0; }
`
