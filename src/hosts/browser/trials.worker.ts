import { TrialsHost } from '../trials-host'
import { serve } from './serve'

serve(TrialsHost.create)
