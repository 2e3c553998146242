import { pipelineSheet } from '../../views/pipeline-sheet'

export default defineRoute('GET /pipeline-sheets', ({ workspace }) => pipelineSheet(workspace))
