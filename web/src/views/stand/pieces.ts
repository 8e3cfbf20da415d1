import styled from 'styled-components'

/** What a page of a show says while it has nothing to show. */
export const Wait = styled.p`padding: 40px; font-size: 18px;`
