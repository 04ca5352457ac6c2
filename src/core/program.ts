/** The version of the program, that of package.json: runs say by which one they were played. */
export const PROGRAM = '0.1.0'
