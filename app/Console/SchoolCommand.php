<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\ShownLink;
use App\Models\Study;
use App\Models\User;
use Illuminate\Console\Command;

/** What the page of the simulated school needs to show the demo's page for readers; nothing where that is gone. */
final class SchoolCommand extends Command
{
    protected $signature = 'orbit:school {address : where Merry Orbit answers} {school : where the school answers}';

    protected $description = 'Prints the line by which the simulated school shows the page of the demo';

    private const NAME = 'The school of Quillhaven, a stand-in';

    public function handle(): int
    {
        $study = Study::query()->where('user_id', User::demoAnalyst()->id)->where('demo', 'ferry-season')->with('model')->first();
        if ($study === null || ! isset($study->model->core()->part('showcases')['guests'])) {
            return self::SUCCESS;
        }
        $school = $this->said('school');
        $key = bin2hex(random_bytes(16));
        ShownLink::query()->where('study_id', $study->id)->where('name', self::NAME)->delete();
        $link = ShownLink::query()->create([
            'study_id' => $study->id,
            'showcase' => 'guests',
            'name' => self::NAME,
            'secret' => hash('sha256', $key),
            'may' => 'copy',
            'hosts' => [$school],
            'opened' => 0,
            'given_by' => $study->user_id,
        ]);
        $address = $this->said('address');
        $this->line(
            "<iframe src=\"$address/embed/$link->id#$key\" data-merry-orbit title=\"How many guests can the island bear?\" ".
                "width=\"100%\" height=\"900\" style=\"border: 0\"></iframe>\n<script src=\"$address/embed.js\" async></script>",
        );

        return self::SUCCESS;
    }

    private function said(string $argument): string
    {
        $value = $this->argument($argument);

        return is_string($value) ? $value : '';
    }
}
