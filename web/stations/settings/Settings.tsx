import { usePreferences } from '../../data/preferences.tsx'
import { Card } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { Sections } from './Sections.tsx'
import { Throwers } from './Throwers.tsx'

export default function Settings() {
  const { preferences, change } = usePreferences()
  return (
    <Sections here="main">
      <Card className="p-5" label="How it looks">
        <h2 className="text-title">How it looks</h2>
        <p className="mb-4 text-quiet">
          Kept for you on this device and the server; nobody else sees a change.
        </p>
        <div className="flex flex-wrap gap-x-8 gap-y-4">
          <Choice
            showLabel
            label="Units"
            value={preferences.units}
            onChange={(units) => change({ units })}
            options={[
              { value: 'metric', label: 'm, m/s, °C' },
              { value: 'imperial', label: 'ft, mph, °F' },
            ]}
          />
          <Choice
            showLabel
            label="Theme"
            value={preferences.theme}
            onChange={(theme) => change({ theme })}
            options={[
              { value: 'day', label: 'Day' },
              { value: 'dusk', label: 'Dusk' },
              { value: 'sun', label: 'Sun' },
            ]}
          />
        </div>
      </Card>
      <Throwers />
    </Sections>
  )
}
