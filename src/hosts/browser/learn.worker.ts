import { LearnHost } from '../learn-host'
import { serve } from './serve'

serve(LearnHost.create)
