import styled from 'styled-components'

/** A piece of tape, before the name of what it marks. */
export const Swatch = styled.span`display: inline-block; width: 18px; height: 12px; flex: none; margin-right: 7px;`
