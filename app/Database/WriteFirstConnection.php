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

    /**
     * When the disk is full SQLite has taken back the whole transaction by itself. What counts is the reason, not that there is
     * nothing left to take back; a connection that may think otherwise is not used any more.
     *
     * @param  int  $toLevel
     */
    protected function performRollBack($toLevel): void
    {
        try {
            parent::performRollBack($toLevel);
        } catch (\PDOException $e) {
            if (! preg_match('/no transaction is active|no such savepoint/', $e->getMessage())) {
                throw $e;
            }
            $this->disconnect();
        }
    }
}
