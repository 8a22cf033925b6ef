<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\Grade;
use MerryOrbit\Core\Exchange\LogLine;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Roster;

/** Writes what concerns the whole model: its name, time, units that mean the same, dimensions; and tells what it has no words for. */
final readonly class HeadWriter
{
    /** Parts of a study for which the standard has no place. */
    private const LEFT_OUT = [
        'scenarios' => 'The scenarios',
        'findings' => 'The findings',
        'plots' => 'The saved plots',
        'groups' => 'The groups and their colours',
        'echoes' => 'Echoes of things on other sheets',
        'bends' => 'The bends of links',
        'mappings' => 'The mappings between dimensions',
        'causalLinks' => 'Causal links and what people say of them',
        'questions' => 'The question of the study',
        'boundary' => 'The boundary of the study',
        'modes' => 'Reference modes',
        'pairs' => 'Pairs that people believe connected',
        'parked' => 'What was put aside',
        'actions' => 'Action ideas',
        'loopNames' => 'What people call loops',
        'wordings' => 'How people speak of more and less of things',
        'mapSpots' => 'Where things stand on the map',
        'sources' => 'The files that data came from',
        'areas' => 'Area maps',
        'uncertain' => 'How likely the values of parameters are',
        'rankPairs' => 'How uncertain inputs go together',
        'outcomes' => 'What is looked at in many runs',
        'muted' => 'What is not nudged',
        'candidates' => 'Values that parameters may have',
        'expectations' => 'What the model is expected to satisfy',
        'calibrations' => 'Which numbers are brought near to what was measured',
        'policies' => 'Which policies are looked for',
        'showcases' => 'Pages for readers',
        'reports' => 'What reports tell',
        'parties' => 'Who keeps ledgers (the stocks and flows that they are made of are written)',
        'evidence' => 'What was measured, to be held against runs',
    ];

    public function __construct(private Model $model, private \XMLWriter $xml)
    {
    }

    public function write(): void
    {
        $this->header();
        $this->specs();
        $this->units();
        $this->dimensions();
    }

    private function header(): void
    {
        $this->xml->startElement('header');
        $this->xml->writeElement('vendor', 'Merry Orbit');
        $this->xml->startElement('product');
        $this->xml->writeAttribute('version', '1');
        $this->xml->text('Merry Orbit');
        $this->xml->endElement();
        $this->xml->writeElement('name', XmileName::clean($this->model->name));
        if ($this->model->note !== '') {
            $this->xml->writeElement('caption', XmileName::clean($this->model->note));
        }
        $this->xml->endElement();
    }

    private function specs(): void
    {
        $time = $this->model->time;
        $this->xml->startElement('sim_specs');
        $this->xml->writeAttribute('method', (string) array_search($time->method, Functions::METHODS, true));
        $this->xml->writeAttribute('time_units', XmileName::clean($time->unit));
        $this->xml->writeElement('start', EquationWriter::number($time->start));
        $this->xml->writeElement('stop', EquationWriter::number($time->end));
        $this->xml->writeElement('dt', EquationWriter::number($time->step));
        if ($time->saveEvery !== null) {
            $this->xml->writeElement('savestep', EquationWriter::number($time->saveEvery));
        }
        $this->xml->endElement();
    }

    private function units(): void
    {
        if ($this->model->sameUnits === []) {
            return;
        }
        $this->xml->startElement('model_units');
        foreach ($this->model->sameUnits as $line) {
            $names = array_map(trim(...), explode('=', $line));
            $this->xml->startElement('unit');
            $this->xml->writeAttribute('name', XmileName::clean($names[0]));
            foreach (array_slice($names, 1) as $alias) {
                $this->xml->writeElement('alias', XmileName::clean($alias));
            }
            $this->xml->endElement();
        }
        $this->xml->endElement();
    }

    private function dimensions(): void
    {
        if ($this->model->dimensions === []) {
            return;
        }
        $this->xml->startElement('dimensions');
        foreach ($this->model->dimensions as $dimension) {
            $this->xml->startElement('dim');
            $this->xml->writeAttribute('name', XmileName::clean($dimension->name));
            foreach ($this->model->dimensions()->elements($dimension->id) as $element) {
                $this->xml->startElement('elem');
                $this->xml->writeAttribute('name', XmileName::clean($this->model->dimensions()->elementName($dimension->id, $element)));
                $this->xml->endElement();
            }
            $this->xml->endElement();
        }
        $this->xml->endElement();
    }

    /** @return list<LogLine> what of the whole model has no place in the standard */
    public function losses(): array
    {
        $log = [];
        if (! $this->model->endWhen->isEmpty()) {
            $log[] = new LogLine('time', 'The condition that ends a run early has no place in the standard.');
        }
        if ($this->model->time->startDate !== null) {
            $log[] = new LogLine('time', 'The calendar date of the start has no place in the standard.');
        }
        if ($this->model->time->method->isAdaptive()) {
            $log[] = new LogLine('time', 'The tolerance of the method has no place in the standard.');
        }
        if (array_filter($this->model->elements, static fn (Element $e): bool => $e instanceof Parameter && $e->step !== null) !== []) {
            $log[] = new LogLine('dials', 'The steps of dials have no place in the standard; their ranges are carried over.');
        }
        foreach (self::LEFT_OUT as $part => $what) {
            if ($this->model->part($part) !== []) {
                $log[] = new LogLine($part, "$what are not carried over.");
            }
        }
        if (array_filter($this->model->part('rosters'), static fn (mixed $r): bool => $r instanceof Roster && $r->isOpen()) !== []) {
            $log[] = new LogLine(
                'rosters',
                'Members that come and go have no place in the standard: those of the list are written as the elements of a dimension, and all '.
                    'of them stay. Taken together, in classes or as one aggregate, they can be written.',
                grade: Grade::Numbers,
            );
        }
        if ($this->model->withoutFactors() !== $this->model) {
            $log[] = new LogLine('factors', 'Factors of the map, which have no equation, are not carried over.');
        }
        if ($this->model->tracks !== []) {
            $log[] = new LogLine('tracks', 'Which variables are plotted at the foot is not carried over.');
        }

        return $log;
    }
}
