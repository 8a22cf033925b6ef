<?php

declare(strict_types=1);

return [
    /*
     * Demo mode signs every browser on this machine in as the demo analyst, and others that have a key. Only bin/serve can be in it.
     */
    'demo' => (bool) env('MERRY_ORBIT_DEMO', false),

    /* The folder of keys that each let in one browser of another machine, in demo mode; a file is named by the hash of a key. */
    'keys' => (string) env('MERRY_ORBIT_KEYS', ''),

    /* Whether people with an account may invite others; else only `bin/orbit-admin invite` does. */
    'invite' => (bool) env('MERRY_ORBIT_INVITE', true),

    /* Where the simulated post office lays letters. */
    'post_office' => (string) env('MERRY_ORBIT_POST_OFFICE', storage_path('app/post-office')),

    /* Host names under which the application answers, besides those of the loopback and of app.url. */
    'hosts' => array_filter(explode(',', (string) env('MERRY_ORBIT_HOSTS', ''))),

    /* Where compiled models are kept. */
    'programs' => storage_path('framework/programs'),

    /* How much one run in a request may take: steps × variables × stages, saved values, and the seconds of a method that chooses its steps. */
    'run' => [
        'most_evaluations' => 4e8,
        'most_values' => 6e6,
        'seconds' => 30,
        'most_adaptive_seconds' => 6.0,
        'most_worker_seconds' => 60.0,
        'most_batch_values' => 3e7,
        'most_kept_values' => 1.5e6,

        /* A request may compute for so long; then a run goes to a worker, and all else needs one of a few turns, up to the most seconds. */
        'free_seconds' => 0.3,
        'turns' => 2,
        'most_seconds' => 8.0,

        /* Evaluations that a request makes of many runs at once: some seconds; more is made by a worker. */
        'most_at_once' => 6e7,

        /* Whether there are workers that long runs can be handed over to. */
        'workers' => (bool) env('MERRY_ORBIT_WORKERS', true),
    ],

    /* The disk of config/filesystems.php that results of runs are kept on. */
    'results_disk' => env('MERRY_ORBIT_RESULTS_DISK', 'local'),

    /* Requests of a kind that one person, or one address, may make in a minute. A hand at a dial asks for some ten runs a second. */
    'per_minute' => [
        'runs' => 3000,
        'edits' => 1200,
        'work' => 240,
        'studies' => 120,
        'files' => 120,
        'shown' => 3000,
        'shown_by_link' => 6000,
        'copies' => 20,
    ],

    /* Seconds for which readers of a page see one version, while its author changes the model. */
    'read_stands_seconds' => 8,

    /* Days after which what was deleted or removed, and can be brought back until then, is gone. */
    'retention' => ['deleted_study_days' => 7, 'removed_days' => 1, 'failed_job_days' => 7, 'happening_days' => 365],

    /* How much one person may keep. */
    'quota' => ['studies' => 500, 'guests' => 1000, 'kept_megabytes' => 1000, 'kept_runs' => 200, 'kept' => 60, 'data_megabytes' => 500],

    /* Measuring stations that may be listened to, by name: where each tells its readings, as JSON. No other address is ever asked. */
    'stations' => array_filter(['old well' => env('MERRY_ORBIT_STATION')]),

    /* Below this share of free JIT buffer the server is started anew: once full, new models run uncompiled without a word. */
    'recycle_below' => 0.25,
    'recycle_mark' => env('MERRY_ORBIT_RECYCLE_MARK', storage_path('framework/recycle')),
];
