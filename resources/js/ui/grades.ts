import type { LogLine } from '@/api/types'

/** What a line of an import log does to the model, gravest first. */
export const GRADES: [LogLine['grade'], string][] = [
    ['numbers', 'changes numbers'],
    ['drawing', 'changes the drawing'],
    ['information', 'for your information'],
]

export const gradeWords = (grade: LogLine['grade']) => GRADES.find(([key]) => key === grade)?.[1] ?? ''
