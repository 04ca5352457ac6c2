import { DiagnoseHost } from '../diagnose-host'
import { serve } from './serve'

serve(DiagnoseHost.create)
