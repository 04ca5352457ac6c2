import { SeedsHost } from '../seeds-host'
import { serve } from './serve'

serve(SeedsHost.create)
