const LN2_HIGH = 6.9314718036912381649e-1
const LN2_LOW = 1.90821492927058770002e-10
const INVERSE_LN2 = 1.442695040888963387

/** 2^k for k from -1022 to 1023 at index k + 1022. */
const POWER_OF_TWO = Float64Array.from({ length: 2046 }, (_, i) => 2 ** (i - 1022))

/**
 * e to the power x, the same bits on every machine: engines may round their own differently.
 *
 * Method: reduction to |r| <= ln(2)/2 and a rational approximation with a polynomial of degree 5 in r^2
 * (fdlibm `e_exp.c`, Sun Microsystems 1993). Error below one unit in the last place.
 * Below -708 the answer is rounded to 0, above 709 to infinity, NaN stays NaN.
 */
export function exponential(x: number): number {
  if (x < -708) return 0
  if (x > 709) return Infinity
  if (x !== x) return x
  const k = Math.round(x * INVERSE_LN2)
  const high = x - k * LN2_HIGH
  const low = k * LN2_LOW
  const r = high - low
  const t = r * r
  const c =
    r -
    t *
      (1.66666666666666019037e-1 +
        t *
          (-2.77777777770155933842e-3 +
            t *
              (6.61375632143793436117e-5 + t * (-1.6533902205465251539e-6 + t * 4.13813679705723846039e-8))))
  return (1 - (low - (r * c) / (2 - c) - high)) * POWER_OF_TWO[k + 1022]
}
