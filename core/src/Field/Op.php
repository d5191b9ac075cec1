<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/** The primitives of the graph. Every target has one table entry for each; all else is composed of them. */
enum Op: string
{
    // leaves
    case Constant = 'constant';
    case Input = 'input';
    case Uniform = 'uniform';
    case Param = 'param';
    // arithmetic, component by component; a scalar meets a vector in every component
    case Add = 'add';
    case Sub = 'sub';
    case Mul = 'mul';
    case Div = 'div';
    case Min = 'min';
    case Max = 'max';
    case Pow = 'pow';
    case Atan2 = 'atan2';
    case Neg = 'neg';
    case Abs = 'abs';
    case Floor = 'floor';
    case Fract = 'fract';
    case Sqrt = 'sqrt';
    case Exp2 = 'exp2';
    case Log2 = 'log2';
    case Sin = 'sin';
    case Cos = 'cos';
    case Mix = 'mix';
    case Clamp = 'clamp';
    case Smoothstep = 'smoothstep';
    // comparison (of scalars) and choice
    case Less = 'less';
    case LessEqual = 'lessEqual';
    case And = 'and';
    case Or = 'or';
    case Not = 'not';
    case Select = 'select';
    // vectors
    case Vec = 'vec';
    case Pick = 'pick';
    case Dot = 'dot';
    case Cross = 'cross';
    case Length = 'length';
    case Normalize = 'normalize';
    // unsigned 32-bit integers; Add and Mul wrap around
    case Xor = 'xor';
    case BitAnd = 'bitAnd';
    case ShiftRight = 'shiftRight';
    case ToUint = 'toUint';
    case ToFloat = 'toFloat';
    // maps and functions
    case Sample = 'sample';
    case SampleLevel = 'sampleLevel';
    case Call = 'call';
}
