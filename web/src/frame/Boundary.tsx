import { Component, type ReactNode } from 'react'
import styled from 'styled-components'

/** Keeps one broken view from taking the rest with it, and says what was kept. */
export class Boundary extends Component<
  { children: ReactNode; name?: string },
  { error: Error | undefined }
> {
  override state = { error: undefined as Error | undefined }

  static getDerivedStateFromError(error: Error) {
    return { error }
  }

  override render() {
    if (!this.state.error) return this.props.children
    return (
      <Box role="alert">
        <h2>{this.props.name ?? 'Envex'} could not be drawn</h2>
        <p>Your plan is safe: everything up to the last change is saved. ({this.state.error.message})</p>
        <button type="button" onClick={() => this.setState({ error: undefined })}>
          Try again
        </button>
      </Box>
    )
  }
}

const Box = styled.div`
  padding: 24px; display: grid; gap: 10px; justify-items: start;
  button { padding: 6px 12px; }
`
