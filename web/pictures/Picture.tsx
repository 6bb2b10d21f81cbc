import type { Picture } from '../../core/judge/answers/picture.ts'
import { ArmsPicture } from './ArmsPicture.tsx'
import { ClaimsPicture } from './ClaimsPicture.tsx'
import { DifferencesPicture } from './DifferencesPicture.tsx'
import type { Drawing } from './drawing.ts'
import { DotsPicture } from './DotsPicture.tsx'
import { LadderPicture } from './LadderPicture.tsx'
import { WearPicture } from './WearPicture.tsx'
import { WeightPicture } from './WeightPicture.tsx'
import { WindPicture } from './WindPicture.tsx'

/** The picture of an answer. */
export function AnswerPicture({ picture, ...drawing }: { readonly picture: Picture } & Drawing) {
  switch (picture.kind) {
    case 'nothing':
      return null
    case 'claims':
      return <ClaimsPicture rows={picture.rows} {...drawing} />
    case 'differences':
      return <DifferencesPicture {...picture} {...drawing} />
    case 'ladder':
      return <LadderPicture {...picture} {...drawing} />
    case 'weight':
      return <WeightPicture {...picture} {...drawing} />
    case 'arms':
      return <ArmsPicture {...picture} {...drawing} />
    case 'wind':
      return <WindPicture rows={picture.rows} {...drawing} />
    case 'wear':
      return <WearPicture {...picture} {...drawing} />
    case 'dots':
      return <DotsPicture {...picture} {...drawing} />
  }
}
