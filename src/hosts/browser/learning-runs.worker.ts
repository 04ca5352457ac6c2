import { LearningRunsHost } from '../learning-runs-host'
import { serve } from './serve'

serve(LearningRunsHost.create)
