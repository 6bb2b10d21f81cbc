import { expect } from 'chai'
import { angleWords, powerWords } from '../../../core/throw/words.ts'

describe('words of a throw', () => {
  it('call an angle by its side and its degrees, and none flat', () => {
    expect([12, -7.5, 0, 0.04, -0.04, 9.96].map(angleWords)).deep.equal([
      '12° hyzer',
      '7.5° anhyzer',
      'flat',
      'flat',
      'flat',
      '10° hyzer',
    ])
  })

  it('call a share of full power by its hundredths', () => {
    expect([1, 0.85, 0.333].map(powerWords)).deep.equal(['full power', '85 % power', '33 % power'])
  })
})
