import {
  MutationCache,
  notifyManager,
  QueryCache,
  QueryClient,
  QueryClientProvider,
} from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter } from 'react-router'
import { RouterProvider } from 'react-router/dom'
import { App } from './App'
import { sessionKey } from './api/access'
import { Problem, shared } from './api/client'
import { Desk } from './edits/desk'
import { inOneTask } from './edits/inOneTask'
import { DeskProvider } from './edits/useDesk'
import { Boundary } from './frame/Boundary'
import { Stuck } from './frame/Stuck'
import { NoticeProvider } from './state/notices'
import { GlobalStyle } from './theme/global'
import { DraftsProvider } from './ui/drafts'

// A device that was forgotten is asked at the door again.
const forgotten = (e: unknown) => {
  if (e instanceof Problem && e.status === 401) void queries.invalidateQueries({ queryKey: sessionKey })
}

notifyManager.setScheduler(inOneTask())

const queries: QueryClient = new QueryClient({
  queryCache: new QueryCache({ onError: forgotten }),
  mutationCache: new MutationCache({ onError: forgotten }),
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true, structuralSharing: shared } },
})
const desk = new Desk(queries)

const router = createBrowserRouter([
  {
    path: '*',
    element: (
      <DraftsProvider>
        <App />
      </DraftsProvider>
    ),
  },
])

const root = document.getElementById('root')
if (!root) throw new Error('the page has no root element')
createRoot(root).render(
  <StrictMode>
    <GlobalStyle />
    <Boundary>
      <QueryClientProvider client={queries}>
        <NoticeProvider>
          <DeskProvider desk={desk}>
            <RouterProvider router={router} />
            <Stuck />
          </DeskProvider>
        </NoticeProvider>
      </QueryClientProvider>
    </Boundary>
  </StrictMode>,
)
