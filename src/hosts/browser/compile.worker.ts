import { CompileHost } from '../compile-host'
import { serve } from './serve'

serve(CompileHost.create)
