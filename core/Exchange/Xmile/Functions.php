<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Model\Method;

/**
 * The functions of the standard (XMILE 1.0, OASIS, section 3.5) as templates of the formula language and back: `$1` stands for
 * the first argument. A template is chosen by the number of arguments.
 */
final class Functions
{
    /** @var array<string, array<int, string>> from the standard, by number of arguments */
    public const READ = [
        'abs' => [1 => 'abs($1)'],
        'arccos' => [1 => 'acos($1)'],
        'arcsin' => [1 => 'asin($1)'],
        'arctan' => [1 => 'atan($1)'],
        'cos' => [1 => 'cos($1)'],
        'exp' => [1 => 'exp($1)'],
        'int' => [1 => 'floor($1)'],
        'ln' => [1 => 'ln($1)'],
        'log10' => [1 => 'log10($1)'],
        'sin' => [1 => 'sin($1)'],
        'sqrt' => [1 => 'sqrt($1)'],
        'tan' => [1 => 'tan($1)'],
        'exprnd' => [1 => 'exponential($1)', 2 => 'exponential($1)'],
        'lognormal' => [2 => 'lognormal($1, $2)', 3 => 'lognormal($1, $2)'],
        'normal' => [2 => 'gaussian($1, $2)', 3 => 'gaussian($1, $2)', 5 => 'clamp(gaussian($1, $2), $4, $5)'],
        'poisson' => [1 => 'poisson($1 / time step) * time step', 2 => 'poisson($1 / time step) * time step'],
        'random' => [2 => 'random($1, $2)', 3 => 'random($1, $2)'],
        'delay' => [2 => 'shift($1, $2)', 3 => 'shift($1, $2, $3)'],
        'delay1' => [2 => 'delay($1, $2)', 3 => 'delay($1, $2, 1, $3)'],
        'delay3' => [2 => 'delay($1, $2, 3)', 3 => 'delay($1, $2, 3, $3)'],
        'delayn' => [3 => 'delay($1, $2, $3)', 4 => 'delay($1, $2, $3, $4)'],
        'forcst' => [3 => 'forecast($1, $2, $3)', 4 => 'forecast($1, $2, $3, $4)'],
        'smth1' => [2 => 'smooth($1, $2)', 3 => 'smooth($1, $2, 1, $3)'],
        'smth3' => [2 => 'smooth($1, $2, 3)', 3 => 'smooth($1, $2, 3, $3)'],
        'smthn' => [3 => 'smooth($1, $2, $3)', 4 => 'smooth($1, $2, $3, $4)'],
        'trend' => [2 => 'trend($1, $2)', 3 => 'trend($1, $2, $3)'],
        'pulse' => [1 => 'pulse($1, start time)', 2 => 'pulse($1, $2)', 3 => 'pulse($1, $2, if($3 > 0, $3, 2 * (end time - start time)))'],
        'ramp' => [1 => 'ramp($1, start time)', 2 => 'ramp($1, $2)', 3 => 'ramp($1, $2, $3)'],
        'step' => [2 => 'step($1, $2)'],
        'init' => [1 => 'initial($1)'],
        'previous' => [2 => 'previous($1, $2)'],
        'safediv' => [2 => 'divide($1, $2, 0)', 3 => 'divide($1, $2, $3)'],
    ];

    /** Integration methods by their names in the standard. @var array<string, Method> */
    public const METHODS = [
        'euler' => Method::Euler,
        'rk2' => Method::Heun,
        'rk4' => Method::RungeKutta4,
        'rk45' => Method::DormandPrince,
        'gear' => Method::Rosenbrock,
    ];

    public const CHANCE = ['exprnd', 'lognormal', 'normal', 'poisson', 'random'];

    /** @var array<string, string> without arguments */
    public const QUANTITIES = ['time' => 'time', 'dt' => 'time step', 'starttime' => 'start time', 'stoptime' => 'end time', 'pi' => 'pi'];

    /**
     * To the standard, by number of arguments. `%1` to `%9` stand for arguments whose operators bind looser than a product and so
     * are put in brackets; `$1` for those between commas.
     *
     * @var array<string, array<int, string>>
     */
    public const WRITE = [
        'abs' => [1 => 'ABS($1)'],
        'acos' => [1 => 'ARCCOS($1)'],
        'asin' => [1 => 'ARCSIN($1)'],
        'atan' => [1 => 'ARCTAN($1)'],
        'cos' => [1 => 'COS($1)'],
        'exp' => [1 => 'EXP($1)'],
        'floor' => [1 => 'INT($1)'],
        'ln' => [1 => 'LN($1)'],
        'log10' => [1 => 'LOG10($1)'],
        'sin' => [1 => 'SIN($1)'],
        'sqrt' => [1 => 'SQRT($1)'],
        'tan' => [1 => 'TAN($1)'],
        'sign' => [1 => '(IF %1 > 0 THEN 1 ELSE IF %1 < 0 THEN -1 ELSE 0)'],
        'ceil' => [1 => '(-INT(-%1))'],
        'trunc' => [1 => '(IF %1 < 0 THEN -INT(-%1) ELSE INT($1))'],
        'round' => [
            1 => '(IF %1 < 0 THEN -INT(0.5 - %1) ELSE INT(%1 + 0.5))',
            2 => '((IF %1 < 0 THEN -INT(0.5 - %1 * 10^(IF %2 < 0 THEN -INT(-%2) ELSE INT($2))) ELSE INT(%1 * 10^(IF %2 < 0 THEN -INT(-%2) ELSE INT($2)) + 0.5)) / 10^(IF %2 < 0 THEN -INT(-%2) ELSE INT($2)))',
        ],
        'mod' => [2 => '(%1 - %2 * INT(%1 / %2))'],
        'clamp' => [3 => 'MIN(MAX($1, $2), $3)'],
        'divide' => [3 => '(IF %2 = 0 THEN $3 ELSE %1 / %2)'],
        'sinh' => [1 => '((EXP($1) - EXP(-%1)) / 2)'],
        'cosh' => [1 => '((EXP($1) + EXP(-%1)) / 2)'],
        'tanh' => [1 => '(1 - 2 / (EXP(2 * %1) + 1))'],
        'atan2' => [
            2 => '(IF %2 > 0 THEN ARCTAN(%1 / %2) ELSE IF %2 < 0 THEN ARCTAN(%1 / %2) + (IF %1 < 0 THEN -PI ELSE PI) ELSE IF %1 > 0 THEN PI / 2 ELSE IF %1 < 0 THEN -PI / 2 ELSE 0)',
        ],
        'if' => [3 => '(IF $1 THEN $2 ELSE $3)'],
        'between' => [3 => '(IF %1 >= %2 AND %1 <= %3 THEN 1 ELSE 0)'],
        'step' => [2 => 'STEP($1, $2)'],
        'ramp' => [2 => 'RAMP($1, $2)', 3 => '(%1 * MAX(0, MIN(TIME, $3) - %2))'],
        'window' => [
            3 => '(STEP($1, $2) - STEP($1, MAX($2, $3)))',
            4 => '(IF TIME >= %2 AND TIME - %2 - %4 * INT((TIME - %2) / %4) < %3 - %2 THEN $1 ELSE 0)',
        ],
        'wave' => [2 => '(%1 * SIN(2 * PI * TIME / %2))', 3 => '(%1 * SIN(2 * PI * (TIME - %3) / %2))'],
        'pulse' => [2 => 'PULSE($1, $2)', 3 => 'PULSE($1, $2, $3)', 4 => '(PULSE($1, $2, $3) * (1 - STEP(1, $4)))'],
        'initial' => [1 => 'INIT($1)'],
        'previous' => [1 => 'PREVIOUS($1, $1)', 2 => 'PREVIOUS($1, $2)'],
        'smooth' => [2 => 'SMTH1($1, $2)', 3 => 'SMTHN($1, $2, $3)', 4 => 'SMTHN($1, $2, $3, $4)'],
        'delay' => [2 => 'DELAY1($1, $2)', 3 => 'DELAYN($1, $2, $3)', 4 => 'DELAYN($1, $2, $3, $4)'],
        'shift' => [2 => 'DELAY($1, $2)', 3 => 'DELAY($1, $2, $3)'],
        'trend' => [2 => 'TREND($1, $2)', 3 => 'TREND($1, $2, $3)'],
        'forecast' => [3 => 'FORCST($1, $2, $3)', 4 => 'FORCST($1, $2, $3, $4)'],
        'random' => [2 => 'RANDOM($1, $2)'],
        'gaussian' => [2 => 'NORMAL($1, $2)'],
        'lognormal' => [2 => 'LOGNORMAL($1, $2)'],
        'exponential' => [1 => 'EXPRND($1)'],
        'poisson' => [1 => '(POISSON(%1 * DT) / DT)'],
    ];

    /**
     * Memory the standard has no function for, as an equation of a variable of its own that remembers itself.
     *
     * @var array<string, array<int, string>>
     */
    public const HELPERS = [
        'highest' => [1 => 'MAX($1, PREVIOUS(SELF, $1))'],
        'lowest' => [1 => 'MIN($1, PREVIOUS(SELF, $1))'],
        'latch' => [2 => 'IF %2 <> 0 THEN 0 ELSE IF %1 <> 0 THEN 1 ELSE PREVIOUS(SELF, 0)'],
        'hold' => [
            2 => 'IF TIME = STARTTIME OR INT((TIME - STARTTIME + 1e-9 * DT) / %2) > INT((TIME - STARTTIME - DT + 1e-9 * DT) / %2) THEN $1 ELSE PREVIOUS(SELF, $1)',
        ],
        'times' => [1 => 'PREVIOUS(SELF, 0) + (IF %1 <> 0 AND PREVIOUS(IF %1 <> 0 THEN 1 ELSE 0, 0) = 0 THEN 1 ELSE 0)'],
    ];

    /** Chance the standard does not have, as its mean. @var array<string, string> */
    public const MEANS = ['binomial' => '(%1 * %2)', 'drift' => '$1'];

    public static function isReserved(string $key): bool
    {
        return isset(self::READ[$key]) || in_array($key, ['max', 'min', 'lookup'], true);
    }
}
