import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { App } from './App'
import { Boundary } from './frame/Boundary'
import { NoticeProvider } from './state/notices'
import { GlobalStyle } from './theme/global'

const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } },
})

const root = document.getElementById('root')
if (!root) throw new Error('the page has no place to draw on')
createRoot(root).render(
  <StrictMode>
    <GlobalStyle />
    <Boundary>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <NoticeProvider>
            <App />
          </NoticeProvider>
        </BrowserRouter>
      </QueryClientProvider>
    </Boundary>
  </StrictMode>,
)
