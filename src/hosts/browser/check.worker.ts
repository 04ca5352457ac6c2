import { CheckHost } from '../check-host'
import { serve } from './serve'

serve(CheckHost.create)
