// Written by bin/write-docs from the parts that core/Model/Parts.php declares.

export interface CausalLinkRecord {
    id: string
    from: string
    to: string
    sign?: '+' | '-' | '?'
    strength?: 'weak' | 'usual' | 'strong'
    late?: boolean
    mechanism?: string
    grounds?: string
    standing?: 'open' | 'agreed' | 'disputed'
}

export interface OtherParts {
    causalLinks: Record<string, CausalLinkRecord>
}
