import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { useEdit } from '../edits/useEdit'
import { Button } from '../ui/controls'
import { Row, Title } from '../ui/layout'

/** What a new player sees: what this is for, a way to begin, a way to look around first. */
export function Begin() {
  const navigate = useNavigate()
  const edit = useEdit()
  return (
    <Box>
      <Title>Every sound of the night, within reach of the feet</Title>
      <p>
        Name the sounds your songs need, say what gear you have and how it is put together, and Envex works
        out which changes your feet can make in time, which they cannot, and why.
      </p>
      <Row>
        <Button $strong onPress={() => navigate('/hear/sounds')}>
          Name your first sound
        </Button>
        <Button onPress={() => void edit.loadDemo().then(() => navigate('/step'))}>Load the demo</Button>
      </Row>
    </Box>
  )
}

const Box = styled.div`max-width: 560px; padding: 40px 20px; display: grid; gap: 16px;`
