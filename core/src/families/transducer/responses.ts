import { exact } from '../../calc/answer'
import type { Result } from '../../method/reduction'
import type { TransducerSettings } from './settings'

const MICROPASCAL = 1e-6

/**
 * Transmitting response, dB about 1 µPa at 1 m a volt, and receiving sensitivity, dB about 1 V a µPa. @source IEC 60500
 */
export function responses({
  transmit,
  receive,
}: Pick<TransducerSettings, 'transmit' | 'receive'>): Record<string, Result> {
  return {
    ...(transmit
      ? {
          transmitResponse: exact(
            20 * Math.log10((transmit.pressure * transmit.distance) / transmit.voltage / MICROPASCAL),
            'dB',
          ),
        }
      : {}),
    ...(receive
      ? { receiveSensitivity: exact(20 * Math.log10((receive.voltage / receive.pressure) * MICROPASCAL), 'dB') }
      : {}),
  }
}
