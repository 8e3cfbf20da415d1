/** A tone as a WAV file, of a second where nothing else is said. */
export function tone(amplitude: number, hz = 997, seconds = 1): Buffer {
  const rate = 48_000
  const samples = rate * seconds
  const data = Buffer.alloc(44 + 2 * samples)
  data.write('RIFF', 0)
  data.writeUInt32LE(36 + 2 * samples, 4)
  data.write('WAVEfmt ', 8)
  data.writeUInt32LE(16, 16)
  data.writeUInt16LE(1, 20)
  data.writeUInt16LE(1, 22)
  data.writeUInt32LE(rate, 24)
  data.writeUInt32LE(2 * rate, 28)
  data.writeUInt16LE(2, 32)
  data.writeUInt16LE(16, 34)
  data.write('data', 36)
  data.writeUInt32LE(2 * samples, 40)
  for (let i = 0; i < samples; i += 1)
    data.writeInt16LE(Math.round(amplitude * Math.sin((2 * Math.PI * hz * i) / rate)), 44 + 2 * i)
  return data
}
