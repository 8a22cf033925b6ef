/** Ten reefs of kelp and urchins that share one parameter: 20 stocks, 30 flows, 10 parameters. */
export function reefs() {
    const elements = []
    const layout = []
    for (let i = 0; i < 10; i++) {
        const y = 60 + i * 130
        elements.push(
            { kind: 'parameter', name: `growth rate ${i}`, formula: '0.9', unit: '1/year', low: 0.1, high: 2, step: 0.01 },
            { kind: 'stock', name: `kelp ${i}`, formula: '60', unit: 't' },
            { kind: 'stock', name: `urchins ${i}`, formula: '20', unit: 'thousand' },
            { kind: 'flow', name: `growth ${i}`, formula: `growth rate 0 * growth rate ${i} * kelp ${i} * (1 - kelp ${i} / 100)`, unit: 't/year', to: `kelp ${i}` },
            { kind: 'flow', name: `grazing ${i}`, formula: `0.02 * kelp ${i} * urchins ${i}`, unit: 't/year', from: `kelp ${i}` },
            { kind: 'flow', name: `recruitment ${i}`, formula: `0.4 * grazing ${i} - urchins ${i} / 2.5`, unit: 'thousand/year', to: `urchins ${i}` },
        )
        layout.push({ element: `kelp ${i}`, at: [300, y] }, { element: `urchins ${i}`, at: [800, y] }, { element: `growth ${i}`, at: [150, y], source: [40, y] }, { element: `grazing ${i}`, at: [450, y], target: [560, y] }, { element: `recruitment ${i}`, at: [680, y], source: [600, y] }, { element: `growth rate ${i}`, at: [150, y - 50] })
    }
    return { format: 'merry-orbit model', version: 1, name: 'Ten reefs', time: { start: 0, end: 100, step: 0.1, unit: 'year' }, elements, layout, tracks: ['kelp 0', 'urchins 0', 'kelp 5'] }
}
