import { PlanHost } from '../plan-host'
import { serve } from './serve'

serve(PlanHost.create)
