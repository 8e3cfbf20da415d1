import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, client } from './client'
import type { components } from './schema.gen'

export type Session = components['schemas']['Session']
export type Role = NonNullable<Session['role']>
export type Devices = components['schemas']['Devices']
export type Pairing = components['schemas']['Pairing']
export type Device = Devices['devices'][number]

export const sessionKey = ['session'] as const
const devicesKey = ['devices'] as const

/** Who this device is to the server. */
export function useSession() {
  return useQuery({
    queryKey: sessionKey,
    queryFn: () => answer(client.GET('/api/session')),
    staleTime: Infinity,
  })
}

/** What a device calls itself in the list of devices, until it is called something else. */
export const ownName = () =>
  /Mobi|Android/.test(navigator.userAgent) || matchMedia('(pointer: coarse)').matches ? 'Phone' : 'Computer'

/** Letting this device in. A page that was not let in knows nothing: it begins anew. */
export function useEnter() {
  const begin = (s: Session) => location.replace(s.role === 'stand' ? '/play' : '/')
  return {
    pair: useMutation({
      mutationFn: (body: { code: string; name: string }) =>
        answer(client.POST('/api/session/pair', { body })),
      onSuccess: begin,
    }),
    enter: useMutation({
      mutationFn: (body: { passphrase: string; name: string }) =>
        answer(client.POST('/api/session', { body })),
      onSuccess: begin,
    }),
  }
}

/** Has this device forgotten. */
export const leave = () => answer(client.DELETE('/api/session')).then(() => location.replace('/'))

/** Who may reach the plan from the network; asked again now and then, since they come by themselves. */
export function useDevices() {
  return useQuery({
    queryKey: devicesKey,
    queryFn: () => answer(client.GET('/api/devices')),
    refetchInterval: 3000,
  })
}

/** What an owner decides about devices. */
export function useDeviceActs() {
  const queries = useQueryClient()
  const keep = (d: Devices) => queries.setQueryData(devicesKey, d)
  return {
    network: useMutation({
      mutationFn: (body: { on: boolean; secure?: boolean }) => answer(client.PUT('/api/network', { body })),
      onSuccess: keep,
    }),
    passphrase: useMutation({
      mutationFn: (passphrase: string) => answer(client.PUT('/api/passphrase', { body: { passphrase } })),
      onSuccess: keep,
    }),
    offer: useMutation({
      mutationFn: (role: Role) => answer(client.POST('/api/pairings', { body: { role } })),
    }),
    forget: useMutation({
      mutationFn: (id: string) => answer(client.DELETE('/api/devices/{id}', { params: { path: { id } } })),
      onSuccess: keep,
    }),
  }
}
