<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

/** What the command line says of itself; docs/command-line.md is made of it. */
final class Help
{
    public const TEXT = <<<'TEXT'
    orbit COMMAND MODEL [options]     MODEL is a native file (JSON), one of the open standard XMILE, or a causal map (GraphML, or CSV)

    orbit run        run the model and print its course
      --only=NAME                 print only this variable (again for more)
      --format=csv|json           how to print (csv)

    orbit health     run it again at half the step and say how much that changes
      --format=text|json          how to print (text)

    run, health and compare also take
      --set "name=value"          another value for a parameter (again for more)
      --scenario=NAME             the settings of a scenario of the model, under those given here
      --method=METHOD             euler, heun, rk4, dopri5 or rosenbrock
      --step=NUMBER               the time step, in the model's time unit
      --start=NUMBER --end=NUMBER when the run starts and ends
      --save-every=NUMBER         the time between printed moments
      --seed=NUMBER               of chance (1)
      --level "ROSTER=LEVEL"      members of a roster as members, as classes or as one (again for more)
      --timing                    say on standard error how long the run itself took

    orbit check      say what is missing or unsound, and what the units have to say
      --format=text|json          how to print (text)

    orbit convert    write the model in another format
      --to=FORMAT                 native, xmile, or of the causal map alone: map-csv, graphml, record (by the ending of --out, else native)
      --level "ROSTER=LEVEL"      with members of a roster as classes or as one, for a format that cannot hold them (again for more)

    orbit show       what a page for readers shows: the inputs as they were taken and the texts with their numbers, or everything (json)
      --page=ID                   which page of the study (the first one)
      --at-step=ID                which step of it (the first one)
      --move "input=number"       an input by its id, as readers may move it (again for more)
      --format=text|json          how to print (text)

    orbit report     a report of the study: report.html, which needs nothing else, report.md, and pictures/*.svg
      --out=FOLDER                where it goes
      --report=ID                 a report of the study, as the place Tell keeps them (the first one)
      --sections=NAME,…           only these, in this order: question, map, structure, runs, data, fits, tests, uncertainty, findings,
                                  variables, history
      --paper=a4|letter           what it is printed on (a4)

    orbit describe   the model in words: equations, units, who uses what

    orbit loops      all feedback loops of a model, or of a causal map: a table (.csv) with the header from,to,sign
      --most=NUMBER               list so many, the shorter ones (2000)
      --independent               only the shortest loops of which the others can be put together
      --story                     tell each step by step, in sentences (in JSON it always is)
      --format=text|json          how to print (text)

    orbit sketch     a causal map, or a model seen as one, played without numbers: what moves, which way, in which order, and why
      --push "NAME=+"             what is pushed, up (+) or down (-), from the start on (again for more)
      --format=text|json|model    how to print (text); model: the sketch as an ordinary model, with all its formulas

    orbit read       what a table of data holds (CSV, XLSX, ODS, JSON); the file stands where MODEL does
      --format=text|json|csv|long how to print (text); csv: a column for each series; long: a row for each value and where it stands

    orbit compare    how well a run fits data
      --data=FILE                 the table of what was measured
      --match "column=variable"   which is which, where the names differ (again for more)
      --format=text|json          how to print (text)

    orbit nudge      every parameter down and up, one at a time, and what that does
      --by=10%                    how far, or --by=range for the range of each dial
      --outcome=NAME              what is looked at, as for ensemble (the stocks at the end; again for more)
      --parameters=a,b            only these
      --also=initials,curves      also plain initial values, and curves as a whole
      --jobs=NUMBER               processes (the cores there are); the result is the same for any
      --format=text|json          how to print (text)

    orbit ensemble   many runs under uncertainty, and what they come to
      --runs=NUMBER               how many (1000)
      --sample=random|latin|sobol how the draws are spread (random)
      --uncertain "NAME=normal(3.5, 1.3)"  a parameter's distribution, perhaps cut off: normal(3.5, 1.3) within 0..10 (again for more)
      --together "a, b=0.6"       how the ranks of two of them go together (again for more)
      --outcome=NAME              one number of each run: NAME, NAME@TIME, NAME:min, :max, :total, :mean, :peak (again for more)
      --bands=NAME                percentiles of a variable over time (again for more)
      --percentiles=5,25,50,75,95
      --draws-in=FILE.csv         the draws themselves: a column for each parameter, a row for each run
      --draws-out=FILE.csv        where they are written
      --jobs=NUMBER               processes (the cores there are); the result is the same for any
      --format=text|json          how to print (text)

    orbit indices    which uncertain inputs an outcome comes from
      --uncertain, --outcome      as for ensemble
      --using=sobol|morris|regression  shares of variance; a first look at many inputs; a straight line through the runs (sobol)
      --runs=NUMBER               in all (1000 for each input, and 2000)
      --jobs=NUMBER               processes (the cores there are); the result is the same for any
      --format=text|json          how to print (text)

    orbit fit        bring numbers of the model near to what was measured
      --data=FILE, --match        as for compare, with all that says how the data are read
      --free="NAME=LOW..HIGH"     a parameter, an element of one, or a stock with a plain initial value, that may move; may be repeated
      --using=least-squares|simplex|evolution  the way it is looked for (least-squares)
      --starts=NUMBER             from where the numbers stand, and from others within the bounds (10)
      --sd="VARIABLE=NUMBER"      the standard deviation of a series' errors, for all series or for none
      --calibration=NAME          one that the study has itself, with its own data, instead of --data and --free
      --profile                   besides, how far off the best is when one number is held elsewhere and the others are fitted anew
      --jobs=NUMBER               processes (the cores there are); the result is the same for any
      --format=text|json          how to print (text)

    orbit posterior  what the data leave open: draws of the numbers by how well runs with them fit
      --data, --match, --free, --sd  as for fit; without --sd the standard deviations are unknown too, and told
      --prior="NAME=normal(1.5, 0.5)"  how likely its values were held to be before, cut by the bounds; else all between them alike
      --calibration=NAME          as for fit
      --draws=NUMBER              of all chains together, after their warm-up (4000)
      --chains=NUMBER             each by itself, from another place (4)
      --draws-out=FILE            the draws, as ensemble --draws-in reads them
      --jobs=NUMBER               processes (the cores there are); the result is the same for any
      --format=text|json          how to print (text)

    orbit optimise   the choice of some numbers that does best, also where the future is uncertain
      --maximise=OUTCOME or --minimise=OUTCOME  what is to be large or small
      --choose="NAME=LOW..HIGH"   a parameter, an element of one, or a plain initial value; may be repeated
      --within="OUTCOME<=NUMBER"  a limit, or with >=, that must hold; under uncertainty in every run; may be repeated
      --policy=NAME               one that the study has itself, instead of all these
      --uncertain="NAME=LAW"      as for ensemble: each choice is run under the same draws
      --over=mean|p5|p95|worst|worst-twentieth|regret  what its runs come to as one number (mean)
      --runs=NUMBER               draws (200)
      --jobs=NUMBER               processes (the cores there are); the result is the same for any
      --format=text|json          how to print (text)

    orbit expect     whether the model satisfies its expectations; it ends with 3 if one does not hold
      --format=text|json          how to print (text)

    orbit ledger     what parties own, owe and are worth at a time of the run, and whether their books balance
      --at=TIME                   when (at the end)
      --format=text|json          how to print (text)

    orbit members    the members of a roster at a time of the run, one row each
      --roster=NAME               which roster: the dimension whose members they are
      --at=TIME                   when (at the end)
      --format=csv|json           how to print (csv)

    orbit areas      the areas of a map with the values of a variable, as GeoJSON
      --map=FILE.geojson          the areas, in degrees of longitude and latitude
      --of=NAME                   the variable, which extends along what the areas are
      --property=NAME             the property that says which is which (the one that matches most)
      --at=TIME                   the time, between saved moments on straight lines (the end of the run; again for more)

    read and compare also take
      --sheet=NAME                of a spreadsheet (the first that holds something)
      --layout=auto|down|across|long
      --decimal=auto|.|,          the decimal sign
      --dates=auto|ymd|dmy|mdy    in which order days and months are written
      --names=ROW                 the row of the names, from 1
      --time=COLUMN               the name of the column that says the time
      --steps=FILE.json           what is done to the table: a list of steps as a study keeps them (docs/data-steps.md)
      --with ID=FILE              a table that the steps ask for by its id (again for more)

    orbit generate   a demo model of about so many variables; the size stands where MODEL does: orbit generate 500

    all take
      --out=FILE                  where to print (standard output)
      --lenient                   guess what a file leaves open or contradicts, and say so, instead of ending with 3

    Exit codes: 0 done, 2 usage or no model file, 3 the model or the question has problems, 4 a numeric fault.

    TEXT;
}
