<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

enum TokenKind
{
    case Number;
    case Name;
    case QuotedName;
    case Word;
    case Operator;
    case Open;
    case Close;
    case Comma;
    case OpenSquare;
    case CloseSquare;
    case Colon;
    case Semicolon;
    case Stray;
    case End;
}
