import { PullsHost } from '../pulls-host'
import { serve } from './serve'

serve(PullsHost.create)
