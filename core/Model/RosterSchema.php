<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** How a roster stands in a file, as JSON Schema. */
final class RosterSchema
{
    private const RULE = ['type' => 'string', 'pattern' => '^[a-z][a-z0-9-]{0,39}$'];

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A dimension whose elements are members that come and go: how they enter and leave.',
        'required' => ['id', 'of'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'of' => ['type' => 'string', 'description' => 'the dimension, by name or id'],
            'note' => ['type' => 'string', 'maxLength' => 4_000],
            'since' => ['type' => 'string', 'description' => 'the parameter that says when each listed member enters'],
            'most' => [
                'type' => 'number',
                'description' => 'members at a time, beyond which a run stops',
                'default' => Roster::USUAL_MOST,
            ],
            'entries' => [
                'type' => 'array',
                'items' => [
                    'type' => 'object',
                    'required' => ['id', 'words', 'of'],
                    'additionalProperties' => false,
                    'properties' => [
                        'id' => self::RULE,
                        'words' => ['type' => 'string', 'description' => 'how they came, such as “bought”'],
                        'of' => ['type' => 'string', 'description' => 'how many enter per time'],
                        'starts' => [
                            'type' => 'array',
                            'items' => [
                                'type' => 'object',
                                'required' => ['of', 'from'],
                                'additionalProperties' => false,
                                'properties' => ['of' => ['type' => 'string'], 'from' => ['type' => 'string']],
                            ],
                        ],
                        'joins' => [
                            'type' => 'object',
                            'description' => 'by mapping, the element that one who enters belongs to',
                            'additionalProperties' => ['type' => 'string'],
                        ],
                    ],
                ],
            ],
            'exits' => [
                'type' => 'array',
                'items' => [
                    'type' => 'object',
                    'required' => ['id', 'words', 'kind', 'of'],
                    'additionalProperties' => false,
                    'properties' => [
                        'id' => self::RULE,
                        'words' => ['type' => 'string', 'description' => 'how they went, such as “sunk”'],
                        'kind' => ['enum' => ['chance', 'when']],
                        'of' => ['type' => 'string', 'description' => 'the chance per time, or the condition, of each member'],
                    ],
                ],
            ],
            'ties' => [
                'type' => 'array',
                'description' => 'how a relation between members changes while a run goes on',
                'items' => [
                    'type' => 'object',
                    'required' => ['of'],
                    'additionalProperties' => false,
                    'properties' => [
                        'of' => ['type' => 'string', 'description' => 'the relation: a mapping from the roster to itself'],
                        'made' => ['type' => 'string', 'description' => 'the chance per time that a member gets one more partner'],
                        'ended' => ['type' => 'string', 'description' => 'the chance per time that each tie of a member ends'],
                        'within' => ['type' => 'string', 'description' => 'the mapping by which partners belong to the same'],
                        'both' => ['type' => 'boolean', 'description' => 'whether each is the other’s partner', 'default' => false],
                    ],
                ],
            ],
            'classes' => [
                'type' => 'object',
                'description' => 'the classes in which members can be taken together',
                'required' => ['since', 'width', 'count'],
                'additionalProperties' => false,
                'properties' => [
                    'since' => ['type' => 'string', 'description' => 'the parameter with the time since which a member is there'],
                    'width' => ['type' => 'number', 'exclusiveMinimum' => 0],
                    'count' => ['type' => 'number', 'minimum' => 1, 'maximum' => Roster::MOST_CLASSES],
                ],
            ],
            'kept' => [
                'type' => 'object',
                'description' => 'what is kept of each member during a run; sums and means of all are in any case, at every saved moment',
                'additionalProperties' => false,
                'properties' => [
                    'of' => [
                        'type' => 'array',
                        'description' => 'variables that are kept at every saved moment, as far as there is room',
                        'items' => ['type' => 'string'],
                    ],
                    'moments' => ['type' => 'number', 'minimum' => 1, 'description' => 'at how many moments all else is kept, at most'],
                ],
            ],
            'seen' => [
                'type' => 'object',
                'description' => 'how members are drawn where they are, in a plane or on an area map',
                'additionalProperties' => false,
                'properties' => [
                    'across' => [
                        'type' => 'string',
                        'description' => 'the variable that says where each is, to the right or as its longitude',
                    ],
                    'up' => ['type' => 'string', 'description' => 'the variable that says where it is upwards, or as its latitude'],
                    'colour' => ['type' => 'string', 'description' => 'the variable of each that colours it'],
                    'size' => ['type' => 'string', 'description' => 'the variable of each that sizes it'],
                    'plan' => ['type' => 'string', 'description' => 'the parameter of each with the time at which it was to be through'],
                    'map' => ['type' => 'string', 'description' => 'the area map that lies beneath, by its id'],
                    'beneath' => [
                        'type' => 'object',
                        'description' => 'a field of values that lies beneath: of spots in the plane, or of areas',
                        'required' => ['of'],
                        'additionalProperties' => false,
                        'properties' => [
                            'of' => ['type' => 'string', 'description' => 'what each spot or area has'],
                            'across' => ['type' => 'string', 'description' => 'the parameter that says where a spot is, to the right'],
                            'up' => ['type' => 'string', 'description' => 'the parameter that says where a spot is upwards'],
                        ],
                    ],
                ],
            ],
            'hands' => [
                'type' => 'array',
                'items' => [
                    'type' => 'object',
                    'required' => ['of', 'to'],
                    'additionalProperties' => false,
                    'properties' => ['of' => ['type' => 'string'], 'to' => ['type' => 'string']],
                ],
            ],
        ],
        'examples' => [
            [
                'id' => 'boats',
                'of' => 'boat',
                'entries' => [['id' => 'bought', 'words' => 'bought', 'of' => 'boats bought']],
                'exits' => [['id' => 'sunk', 'words' => 'sunk', 'kind' => 'chance', 'of' => 'chance to sink']],
            ],
        ],
    ];
}
