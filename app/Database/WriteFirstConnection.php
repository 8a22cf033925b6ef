<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Database\SQLiteConnection;

/**
 * SQLite whose transactions take the lock for writing when they begin. On PHP 8.2 they begin deferred: one that reads first, as the
 * queue's does when it looks for a job, fails at once when another writes in between, instead of waiting for its turn.
 */
final class WriteFirstConnection extends SQLiteConnection
{
    protected function executeBeginTransactionStatement(): void
    {
        parent::executeBeginTransactionStatement();
        try {
            // A deletion of nothing is a write, too.
            $this->getPdo()->exec('delete from sqlite_sequence where 0');
        } catch (\PDOException $e) {
            if (! str_contains($e->getMessage(), 'no such table')) {
                // The transaction has begun all the same. Left open, it would fail every later one of a process that lives on.
                $this->getPdo()->rollBack();
                throw $e;
            }
        }
    }
}
