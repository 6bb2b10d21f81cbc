import { expect } from 'chai'
import { once } from 'node:events'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import { makeApp } from '../../server/app.ts'
import {
  BadRecording,
  playedDevices,
  replayedAnemometer,
  replayedScale,
} from '../../server/devices/replay.ts'
import type { WindReport } from '../../contract/devices.ts'
import { testServer } from './server.ts'

const WIND = 't_s,speed_mps,from_deg\n10,2,180\n11,3.5,190\n13,5,360\n'

describe('devices played from a file', () => {
  it('say again what was said, when it was said, over and over', () => {
    const wind = replayedAnemometer('/somewhere/gusty.csv', WIND)
    expect(wind.name).equal('Anemometer played from gusty.csv')
    const start = Date.parse('2026-05-02T10:00:00Z')
    const at = (s: number) => wind.read('anywhere', new Date(start + 1000 * s))
    expect(at(0)).deep.equal({ speedMps: 2, fromDeg: 180 })
    expect(at(0.9).speedMps).equal(2)
    expect(at(1)).deep.equal({ speedMps: 3.5, fromDeg: 190 })
    expect(at(2.99).speedMps).equal(3.5)
    expect(at(3)).deep.equal({ speedMps: 5, fromDeg: 0 })
    expect(at(4.9).speedMps).equal(5)
    expect(at(5)).deep.equal({ speedMps: 2, fromDeg: 180 })
    expect(at(6.5).speedMps).equal(3.5)
  })

  it('weigh a disc as it was weighed, and are tared', () => {
    const scale = replayedScale('s.csv', 't_s,grams,steady\n0,20,0\n0.5,171,0\n1.5,174.2,1\n')
    expect(scale.read(null, 0)).deep.equal({ grams: 0, steady: true })
    expect(scale.read(174, 0.6)).deep.equal({ grams: 171, steady: false })
    expect(scale.read(174, 60)).deep.equal({ grams: 174.2, steady: true })
    scale.tare()
    expect(scale.read(174, 60).grams).equal(0)
  })

  it('are refused with everything that is wrong', () => {
    const wrong = (csv: string) => {
      try {
        replayedAnemometer('w.csv', csv)
      } catch (e) {
        expect(e).instanceOf(BadRecording)
        return (e as Error).message
      }
      return ''
    }
    expect(wrong('t_s,speed_mps\n0,1\n1,x\n')).equal(
      'w.csv cannot be played: row 3: speed_mps is “x”; it must be a number from 0 to 60; column from_deg is missing.',
    )
    expect(wrong('t_s,speed_mps,from_deg\n1,1,1\n1,1,1\n')).match(/row 3: t_s does not increase/)
    expect(wrong('t_s,speed_mps,from_deg\n1,1,1\n')).match(/fewer than two readings/)
    expect(() => playedDevices({ VEER_SCALE: '/nowhere/at/all.csv' })).throw(
      BadRecording,
      /VEER_SCALE is .*cannot be read/,
    )
    expect(playedDevices({})).deep.equal({})
  })

  it('take the place of the stand-in, and the field hears them by their name', async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-played-'))
    const file = path.join(folder, 'steady.csv')
    fs.writeFileSync(file, 't_s,speed_mps,from_deg\n0,4,90\n1,4,90\n')
    const it_ = await testServer()
    const devices = playedDevices({ VEER_ANEMOMETER: file })
    const server = makeApp({ db: it_.db, works: it_.works, quiet: true, devices }).listen(0, '127.0.0.1')
    try {
      await once(server, 'listening')
      const { port } = server.address() as AddressInfo
      const report = await new Promise<WindReport>((done, fail) => {
        const source = http.get(
          { host: '127.0.0.1', port, path: '/api/devices/anemometer?place=Millpond%20meadow&bearing=90' },
          (res) => {
            res.setEncoding('utf8')
            res.once('data', (text: string) => {
              source.destroy()
              done(JSON.parse(text.replace(/^data: /, '')) as WindReport)
            })
          },
        )
        source.on('error', fail)
      })
      expect(report).include({ device: 'Anemometer played from steady.csv', speedMps: 4, fromDeg: 90 })
      // from the east along an aim line to the east: in the face
      expect(report.alongMps).closeTo(-4, 1e-9)
    } finally {
      server.closeAllConnections()
      server.close()
      await it_.stop()
      fs.rmSync(folder, { recursive: true, force: true })
    }
  })
})
